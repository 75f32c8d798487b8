<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;

/**
 * Puts grain back where smoothing or covering took it. Grain is luma less its Gaussian of 1.2 pixels. Its strength is
 * measured as robust spread in the untreated frame, in the area and a quarter of its width round it, where luma is within
 * 0.15 of the area's own: round a spot most of that is the skin beside it, in a face it is the skin as it came. In the
 * treated area it is measured place by place, as the mean square over 1.5 % of the picture height, five pixels at least. What is missing to
 * `level` times the untreated, in variance, is added as noise, the same on all three channels.
 *
 * The noise comes from a tile of Gaussian numbers softened so that neighbours correlate as they do there; the tile
 * is laid anew for each frame, so a frame always gets the same and no two frames do.
 */
final class Grain implements InArea, Kind
{
    use Neutral;

    private const SOFT = 1.2;
    private const TILE = 128;
    private const LEVEL_RANGE = 0.15;
    private const ENOUGH = 150;
    private const SIZES = [0.0, 0.4, 0.55, 0.7, 0.85, 1.0, 1.3];

    /** @var list<array{float, list<float>}>|null tiles by how neighbours correlate, all with grain of spread 1 */
    private ?array $tiles = null;

    public function name(): string
    {
        return 'grain';
    }

    public function parameters(): array
    {
        return [new Number('level', 0, 2, 0)];
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::area(Gaussian::reach(self::SOFT));
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $matte = $site->matte();
        $margin = Gaussian::reach(self::SOFT);
        $luma = Luma::of($planes, $matte->rect->grow($margin)->intersect($planes->rect));
        $rect = $luma->rect;
        [$mean] = Robust::of($luma->v, $matte->window($rect)->v);
        [$spread, $likeness] = self::measured($site, $mean);
        $wanted = ($values['level'] * $spread) ** 2;
        $squares = array_map(static fn(float $v): float => $v * $v, self::grain($luma));
        $present = Gaussian::values($squares, $rect->width, $rect->height, max(5.0, 0.015 * $site->rows()));
        $tile = $this->tile($likeness);
        [$left, $top] = self::place($site->number);
        $out = [];
        for ($y = $rect->y, $i = 0; $y < $rect->bottom(); ++$y) {
            $row = (($y + $top) & (self::TILE - 1)) * self::TILE;
            for ($x = $rect->x; $x < $rect->right(); ++$x, ++$i) {
                $missing = $wanted - $present[$i];
                $out[] = $missing > 0.0 ? sqrt($missing) * $tile[$row + (($x + $left) & (self::TILE - 1))] : 0.0;
            }
        }
        Luma::add($planes, $weight, new Grey($rect, $out));
    }

    /**
     * Spread of the untreated grain there, and how alike neighbours in a row are.
     *
     * @return array{float, float}
     */
    private static function measured(Site $site, float $mean): array
    {
        $matte = $site->matte();
        $around = max(8, (int) ceil(0.25 * $site->extent()->width() * $site->rows()));
        $rect = $matte->rect->grow($around)->intersect($site->untreated->format->rect());
        $luma = $site->untreated->luma($rect);
        $grain = self::grain($luma);
        $near = array_map(static fn(float $v): float => abs($v - $mean) < self::LEVEL_RANGE ? 1.0 : 0.0, $luma->v);
        $counted = array_sum($near) >= self::ENOUGH ? $near : array_fill(0, count($near), 1.0);
        [, $spread] = Robust::of($grain, $counted);
        $square = $beside = 0.0;
        $limit = 3 * $spread;
        for ($i = 0, $n = count($grain) - 1; $i < $n; ++$i) {
            if ($counted[$i] > 0.0 && $counted[$i + 1] > 0.0 && abs($grain[$i]) < $limit && abs($grain[$i + 1]) < $limit) {
                $square += $grain[$i] * $grain[$i];
                $beside += $grain[$i] * $grain[$i + 1];
            }
        }

        return [$spread, $square > 0.0 ? $beside / $square : 0.0];
    }

    /** @return list<float> what is finer than the softened luma */
    private static function grain(Grey $luma): array
    {
        $grain = $luma->v;
        foreach (Gaussian::blur($luma, self::SOFT)->v as $i => $soft) {
            $grain[$i] -= $soft;
        }

        return $grain;
    }

    /** @return array{int, int} where the tile begins on a frame */
    private static function place(int $number): array
    {
        $random = new \Random\Randomizer(new \Random\Engine\Mt19937($number + 1));

        return [$random->getInt(0, self::TILE - 1), $random->getInt(0, self::TILE - 1)];
    }

    /** @return list<float> the tile whose neighbours are most like that */
    private function tile(float $likeness): array
    {
        $this->tiles ??= self::tiles();
        $best = $this->tiles[0];
        foreach ($this->tiles as $tile) {
            if (abs($tile[0] - $likeness) < abs($best[0] - $likeness)) {
                $best = $tile;
            }
        }

        return $best[1];
    }

    /** @return list<array{float, list<float>}> */
    private static function tiles(): array
    {
        $random = new \Random\Randomizer(new \Random\Engine\Mt19937(10_729));
        $white = [];
        for ($i = 0; $i < self::TILE * self::TILE; ++$i) {
            $u = $random->getInt(1, 1 << 30) / (1 << 30);
            $white[] = sqrt(-2 * log($u)) * cos(2 * M_PI * $random->getInt(0, 1 << 30) / (1 << 30));
        }
        $tiles = [];
        foreach (self::SIZES as $sigma) {
            $tile = self::wrapped($white, $sigma);
            $grain = self::grain(new Grey(Rect::of(0, 0, self::TILE, self::TILE), $tile));
            $square = $beside = 0.0;
            for ($i = 0, $n = count($grain) - 1; $i < $n; ++$i) {
                $square += $grain[$i] * $grain[$i];
                $beside += $grain[$i] * $grain[$i + 1];
            }
            $scale = 1 / sqrt($square / count($grain));
            $tiles[] = [$beside / $square, array_map(static fn(float $v): float => $v * $scale, $tile)];
        }

        return $tiles;
    }

    /**
     * Softened as if the tile went on all around.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function wrapped(array $v, float $sigma): array
    {
        $reach = Gaussian::reach($sigma);
        $size = self::TILE + 2 * $reach;
        $wide = [];
        for ($y = -$reach; $y < self::TILE + $reach; ++$y) {
            for ($x = -$reach; $x < self::TILE + $reach; ++$x) {
                $wide[] = $v[($y & (self::TILE - 1)) * self::TILE + ($x & (self::TILE - 1))];
            }
        }

        return (new Grey(Rect::of(-$reach, -$reach, $size, $size), Gaussian::values($wide, $size, $size, $sigma)))->window(Rect::of(0, 0, self::TILE, self::TILE))->v;
    }
}
