<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\EllipseMatte;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Asset;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\Choice;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Points;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;

/** A made picture with an elliptic area in its middle, for touches to act on. */
final class Scene implements Assets
{
    public const WIDTH = 96;
    public const HEIGHT = 64;

    public function __construct(public readonly Frame $frame, public readonly Site $site, public readonly Grey $matte) {}

    /**
     * @param callable(int, int): array{float, float, float} $paint R'G'B' of a pixel, kept to 16 bits from -.07 to 1.09
     * @param array{float, float}                            $radii of the area, picture heights
     */
    public static function painted(callable $paint, array $radii = [0.3, 0.25], Transfer $transfer = Transfer::Bt1886, ?Matrix $motion = null, float $feather = 0.05): self
    {
        $format = new FrameFormat(self::WIDTH, self::HEIGHT, Layout::Rgb, transfer: $transfer);
        $planes = [[], [], []];
        for ($y = 0; $y < self::HEIGHT; ++$y) {
            for ($x = 0; $x < self::WIDTH; ++$x) {
                [$r, $g, $b] = $paint($x, $y);
                foreach ([$g, $b, $r] as $k => $v) {
                    $planes[$k][] = max(0, min(65535, (int) round($format->black() + $v * $format->lumaSpan())));
                }
            }
        }
        $frame = new Frame($format, pack('v*', ...$planes[0], ...$planes[1], ...$planes[2]));
        $motion ??= Matrix::identity();
        $centre = [self::WIDTH / self::HEIGHT / 2, 0.5];
        $placed = EllipseMatte::on(new Ellipse('s', $centre, $radii, featherOut: $feather), $motion, self::HEIGHT);
        $matte = $placed->matte($placed->bounds()->intersect($format->rect()));
        $assets = new self($frame, new Site(3, $frame), $matte);

        return new self($frame, new Site(3, $frame, $assets, new Extent($motion, ...$centre, halfWidth: $radii[0], halfHeight: $radii[1]), $matte->rect), $matte);
    }

    /** Skin-like colour with noise and blotches. */
    public static function skin(int $seed = 5, float $noise = 0.01): self
    {
        $random = Chance::seeded($seed);

        return self::painted(static function (int $x, int $y) use ($random, $noise): array {
            $n = $random->between(-$noise, $noise);
            $blotch = 0.03 * sin($x / 3.1) * cos($y / 2.7);

            return [0.62 + $n + $blotch, 0.46 + $n - $blotch / 2, 0.38 + $n + 0.001 * $x];
        });
    }

    public static function noise(int $seed = 7): self
    {
        $random = Chance::seeded($seed);

        return self::painted(static fn(): array => [$random->between(-0.03, 1.05), $random->between(-0.03, 1.05), $random->between(-0.03, 1.05)]);
    }

    /**
     * The picture after a touch inside the area.
     *
     * @param array<string, mixed> $changes
     */
    public function touched(Kind $kind, array $changes, float $amount = 1.0): Planes
    {
        $planes = $this->frame->window($this->frame->format->rect());
        $this->act($kind, self::values($kind, $changes), $planes, Weight::inside($this->matte, $amount));

        return $planes;
    }

    /**
     * And everywhere.
     *
     * @param array<string, mixed> $changes
     */
    public function everywhere(Kind $kind, array $changes): Planes
    {
        $rect = $this->frame->format->rect();
        $planes = $this->frame->window($rect);
        $this->act($kind, self::values($kind, $changes), $planes, Weight::everywhere($rect, 1.0));

        return $planes;
    }

    /**
     * A touch as the renderer lets it act, on planes over the whole picture.
     *
     * @param array<string, mixed> $values
     */
    public function act(Kind $kind, array $values, Planes $planes, Weight $weight): void
    {
        $this->ready($kind, $values, $planes)->apply($planes, $weight);
    }

    /**
     * What acts with these settings, once it was shown the area.
     *
     * @param array<string, mixed> $values
     * @param Planes               $planes over the whole picture
     */
    public function ready(Kind $kind, array $values, Planes $planes): Effect
    {
        $does = $kind->prepare($values, $this->site);

        return $does instanceof Survey ? $does->effect(AreaPicture::of($does->sees()->intersect($planes->rect), $does->block(), $planes, $this->matte)) : $does;
    }

    /**
     * @param array<string, mixed> $changes
     *
     * @return array<string, mixed>
     */
    public static function values(Kind $kind, array $changes): array
    {
        $values = [];
        foreach ($kind->parameters() as $parameter) {
            $values[$parameter->name] = $changes[$parameter->name] ?? $parameter->neutral;
        }

        return $values;
    }

    /**
     * Settings of a kind that change something.
     *
     * @return array<string, mixed>
     */
    public static function strong(Kind $kind): array
    {
        $values = [];
        foreach ($kind->parameters() as $parameter) {
            $values[$parameter->name] = match (true) {
                $parameter instanceof Number => match ($parameter->name) {
                    'offsetX', 'offsetY' => 0.1,
                    'radius', 'calm' => 0.02,
                    'width' => 0.5,
                    'scale' => 1.0,
                    'first', 'moveX', 'moveY' => 0.0,
                    default => $parameter->most === $parameter->neutral ? $parameter->least : $parameter->most,
                },
                $parameter instanceof Choice => $parameter->words[0],
                $parameter instanceof Points => [[$parameter->x[0], $parameter->y[0]], [$parameter->x[1] * 0.9, $parameter->y[1]]],
                $parameter instanceof Asset => $parameter->kind,
                default => throw new \LogicException($parameter->name),
            };
        }

        return $values;
    }

    public function cube(string $name): Cube
    {
        return Cube::parse("LUT_3D_SIZE 2\n0 0 0\n0 1 0\n1 0 0\n1 1 0\n0 0 1\n0 1 1\n1 0 1\n1 1 1\n");
    }

    public function frame(string $name, int $number, int $rows): Frame
    {
        return self::noise(99)->frame;
    }

    public static function at(Planes $planes, Rect $rect, callable $of): array
    {
        $out = [];
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x) {
                $out[] = $of(...$planes->at($x, $y));
            }
        }

        return $out;
    }
}
