<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/**
 * A square of grain of spread 1 that goes on all around, laid elsewhere on each frame: nowhere does one lie twice within
 * 16,384 frames.
 */
final class GrainTile
{
    public const SIDE = 128;

    /** Sigma of what luma is softened by; grain is what is finer. */
    public const SOFT = 1.2;
    /** Sigma that nothing in the tile is coarser than: blotches were not asked for. */
    private const COARSE = 2.4;
    private const SIZES = [0.0, 0.4, 0.55, 0.7, 0.85, 1.0, 1.3];

    /** @var list<array{float, list<float>}>|null by how neighbours correlate; always the same, so made once */
    private static ?array $tiles = null;

    /**
     * @param list<float> $values
     */
    private function __construct(public readonly array $values) {}

    /** The one whose neighbours in a row are most alike as that. */
    public static function like(float $likeness): self
    {
        self::$tiles ??= self::tiles();
        $best = self::$tiles[0];
        foreach (self::$tiles as $tile) {
            if (abs($tile[0] - $likeness) < abs($best[0] - $likeness)) {
                $best = $tile;
            }
        }

        return new self($best[1]);
    }

    /** @return array{int, int} where a tile begins on a frame: another place for each of 16,384, in no order the eye could follow */
    public static function place(int $number): array
    {
        $size = self::SIDE * self::SIDE;
        $p = ($number % $size + $size) % $size;
        // Each step can be undone, so no two frames get the same.
        for ($round = 0; $round < 3; ++$round) {
            $p = ($p * 10_007 + 4_321) % $size;
            $p ^= $p >> 7;
        }

        return [$p % self::SIDE, intdiv($p, self::SIDE)];
    }

    /** @return list<float> what is finer than the softened luma */
    public static function grain(Grey $luma): array
    {
        $grain = $luma->v;
        foreach (Gaussian::blur($luma, self::SOFT)->v as $i => $soft) {
            $grain[$i] -= $soft;
        }

        return $grain;
    }

    /** @return list<array{float, list<float>}> */
    private static function tiles(): array
    {
        $random = new \Random\Randomizer(new \Random\Engine\Mt19937(10_729));
        $white = [];
        for ($i = 0; $i < self::SIDE * self::SIDE; ++$i) {
            $u = $random->getInt(1, 1 << 30) / (1 << 30);
            $white[] = sqrt(-2 * log($u)) * cos(2 * M_PI * $random->getInt(0, 1 << 30) / (1 << 30));
        }
        $tiles = [];
        foreach (self::SIZES as $sigma) {
            $tile = self::wrapped($white, $sigma);
            foreach (self::wrapped($tile, self::COARSE) as $i => $blotch) {
                $tile[$i] -= $blotch;
            }
            $grain = self::grain(new Grey(Rect::of(0, 0, self::SIDE, self::SIDE), $tile));
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
        $size = self::SIDE + 2 * $reach;
        $wide = [];
        for ($y = -$reach; $y < self::SIDE + $reach; ++$y) {
            for ($x = -$reach; $x < self::SIDE + $reach; ++$x) {
                $wide[] = $v[($y & (self::SIDE - 1)) * self::SIDE + ($x & (self::SIDE - 1))];
            }
        }

        return (new Grey(Rect::of(-$reach, -$reach, $size, $size), Gaussian::values($wide, $size, $size, $sigma)))->window(
            Rect::of(0, 0, self::SIDE, self::SIDE),
        )->v;
    }
}
