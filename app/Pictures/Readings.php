<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Treatment\Renderers;
use Cossel\Core\Judge\AreaColours;
use Cossel\Core\Judge\Histogram;
use Cossel\Core\Judge\Vectorscope;
use Cossel\Core\Judge\Waveform;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Pick\PickMatte;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Propose\Cover;
use Cossel\Core\Propose\OtherEye;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Sample;

/** What is read from pictures rather than shown: scopes, an area's colours, samples, and places found by likeness. */
final class Readings
{
    private const SCOPE_HEIGHT = 180;
    private const COLUMNS = 320;
    private const PARADE_COLUMNS = 104;
    private const ROWS = 120;
    private const VECTORS = 128;
    private const BINS = 120;
    /** Rows of the frame that colours and places are read from, at the least. */
    private const HEIGHT = 540;
    /** A click samples the mean over so many pixels each way; a drag so many places each way. */
    private const CLICK = 2;
    private const DRAG = 3;

    public function __construct(private readonly FrameCache $frames, private readonly Renderers $renderers) {}

    /** @return array{scope: string, columns: int, rows: int, from: float, to: float, counts: list<list<int>>} */
    public function scope(FootageFile $footage, Recipe $recipe, int $number, View $view, Scope $scope, ?Area $area, bool $limited, int $zoom = 1): array
    {
        $frame = $this->frame($footage, $number, self::SCOPE_HEIGHT);
        $renderer = $this->renderers->of(BenchPictures::shown($recipe, $view, $area));
        $rect = $frame->format->rect();
        $matte = null;
        if ($limited && $area !== null) {
            $rect = AreaMatte::on($area, $number, $this->renderers->motions($recipe), $rect)->bounds();
            $matte = $rect->isEmpty() ? null : $this->renderers->of($recipe)->matte($frame, $area, $number, $rect);
        }
        $columns = min($scope === Scope::Parade ? self::PARADE_COLUMNS : self::COLUMNS, max(1, $rect->width));
        $meters = match ($scope) {
            Scope::Waveform => [new Waveform($rect, $columns, self::ROWS)],
            Scope::Parade => array_map(static fn(array $mix): Waveform => new Waveform($rect, $columns, self::ROWS, $mix), [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]]),
            Scope::Vectorscope => [new Vectorscope(self::VECTORS, $zoom)],
            Scope::Histogram => [new Histogram(self::BINS)],
        };
        foreach ($rect->isEmpty() ? [] : $renderer->bands($frame, $number, $rect) as $planes) {
            foreach ($meters as $meter) {
                $meter->add($planes, $matte);
            }
        }
        [$columns, $rows] = match ($scope) {
            Scope::Vectorscope => [self::VECTORS, self::VECTORS],
            Scope::Histogram => [self::BINS, 1],
            default => [$columns, self::ROWS],
        };
        $counts = array_map(static fn(Waveform|Vectorscope|Histogram $meter): array => $meter->counts(), $meters);

        return ['scope' => $scope->value, 'columns' => $columns, 'rows' => $rows, 'from' => Waveform::FROM, 'to' => Waveform::TO, 'counts' => $scope === Scope::Histogram ? array_values($counts[0]) : $counts];
    }

    /** The colours of an area's outline as the picture enters it. */
    public function colours(FootageFile $footage, Recipe $recipe, int $number, Area $area): ?AreaColours
    {
        $frame = $this->frame($footage, $number, self::HEIGHT / 2);
        $outline = $this->outline($recipe, $area, $number, $frame);

        return $outline->rect->isEmpty() ? null : AreaColours::of($this->renderers->of($recipe)->before($frame, $area, $number, $outline->rect), $outline, $frame->format->transfer);
    }

    /**
     * Samples of the picture as it enters an area: of a place, or spread over a rectangle.
     *
     * @param array{float, float} $from picture heights
     * @param array{float, float} $to
     *
     * @return list<Sample>
     */
    public function samples(FootageFile $footage, Recipe $recipe, int $number, Area $area, array $from, array $to, bool $taken): array
    {
        $frame = $this->frame($footage, $number, self::HEIGHT);
        $rows = $frame->format->height;
        $places = [];
        $dragged = hypot($to[0] - $from[0], $to[1] - $from[1]) * $rows > 2 * self::CLICK;
        $n = $dragged ? self::DRAG : 1;
        for ($i = 0; $i < $n * $n; ++$i) {
            [$u, $v] = $n === 1 ? [0.0, 0.0] : [($i % $n) / ($n - 1), intdiv($i, $n) / ($n - 1)];
            $places[] = [$from[0] + ($to[0] - $from[0]) * $u, $from[1] + ($to[1] - $from[1]) * $v];
        }
        $renderer = $this->renderers->of($recipe);
        $samples = [];
        foreach ($places as [$x, $y]) {
            $rect = Rect::of((int) floor($x * $rows) - self::CLICK, (int) floor($y * $rows) - self::CLICK, 2 * self::CLICK + 1, 2 * self::CLICK + 1)->intersect($frame->format->rect());
            if ($rect->isEmpty()) {
                continue;
            }
            $planes = $renderer->before($frame, $area, $number, $rect);
            $mean = static fn(array $v): float => round(array_sum($v) / count($v), 5);
            $samples[] = new Sample($number, [round($x, 5), round($y, 5)], [$mean($planes->r), $mean($planes->g), $mean($planes->b)], $taken);
        }

        return $samples;
    }

    /** The mean lightness of an area's outline as the picture enters it. */
    public function meanLight(FootageFile $footage, Recipe $recipe, int $number, Area $area): float
    {
        $frame = $this->frame($footage, $number, self::HEIGHT);
        $outline = $this->outline($recipe, $area, $number, $frame);

        return PickMatte::light(AreaPicture::of($outline->rect, 1, $this->renderers->of($recipe)->before($frame, $area, $number, $outline->rect), $outline), $frame->format->transfer);
    }

    /** @return array{float, float} the offset a spot is best covered from */
    public function cover(FootageFile $footage, Recipe $recipe, int $number, Area $area): array
    {
        $frame = $this->frame($footage, $number, $footage->info->height);
        $outline = $this->outline($recipe, $area, $number, $frame);
        $extent = AreaExtent::of($area, $number, $this->renderers->motions($recipe));
        $rows = $frame->format->height;
        $around = $outline->rect->grow((int) ceil(7.5 * $extent->radius() * $rows))->intersect($frame->format->rect());

        return Cover::of($this->renderers->of($recipe)->before($frame, $area, $number, $around), $outline, $extent, $rows);
    }

    /** @return array{float, float}|null where the eye like this one is, picture heights of the frame */
    public function otherEye(FootageFile $footage, Recipe $recipe, int $number, Area $area): ?array
    {
        $frame = $this->frame($footage, $number, self::HEIGHT);
        $extent = AreaExtent::of($area, $number, $this->renderers->motions($recipe));
        $rows = $frame->format->height;
        [$x, $y] = $extent->centre();
        $found = OtherEye::of($frame->luma($frame->format->rect()), $x * $rows, $y * $rows, $extent->radius() * $rows);

        return $found === null ? null : [$found[0] / $rows, $found[1] / $rows];
    }

    private function frame(FootageFile $footage, int $number, int $height): Frame
    {
        return $this->frames->frame($footage, $number, FrameCache::kept($footage->info, $height));
    }

    private function outline(Recipe $recipe, Area $area, int $number, Frame $frame): Grey
    {
        $matte = AreaMatte::on($area, $number, $this->renderers->motions($recipe), $frame->format->rect(), $frame);

        return $matte->matte($matte->bounds());
    }
}
