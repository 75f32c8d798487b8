<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;

/**
 * What a followed thing is taken for before anything is learnt of it: the front of a head, or a dome. Places and depths in
 * centimetres, of a head about the middle between the outer corners of the eyes: x to the right, y up, z towards the camera.
 *
 * The places of the head are rounded means of adults, by hand; they are where learning begins, no more. Between them lies
 * a thin plate (F. Bookstein, "Principal Warps", IEEE PAMI 11(6), 1989), which does not have to meet them quite.
 */
final class Surface
{
    /** One side and the middle; the other side is its mirror. */
    private const HEAD = [
        [4.5, 0.0, 0.0], [1.6, -0.1, 0.6], [3.2, 0.0, 0.9], [0.0, 0.5, 2.3], [0.0, 2.0, 2.8], [2.5, 2.0, 2.2], [4.5, 1.8, 1.0],
        [0.0, 5.0, 2.6], [0.0, 7.0, 1.6], [2.4, 5.0, 2.0], [2.5, 7.2, 1.0], [4.5, 5.0, 0.6], [6.0, 4.0, -1.5], [6.3, 0.3, -2.5],
        [0.0, -2.0, 3.5], [1.0, -2.0, 2.2], [3.0, -1.6, 0.9], [0.0, -4.2, 4.4], [1.7, -4.4, 2.3], [3.3, -4.0, 1.4], [4.5, -3.0, 0.6],
        [6.0, -2.0, -2.0], [0.0, -5.2, 2.9], [0.0, -6.2, 3.2], [0.0, -7.4, 2.9], [2.5, -6.8, 1.5], [5.5, -7.0, -2.3], [2.2, -9.0, 1.6],
        [4.0, -9.0, -0.3], [0.0, -10.5, 2.6], [0.0, -12.0, 1.2], [3.0, -11.5, -0.3], [0.0, -14.0, -2.5], [0.0, -17.0, -4.5],
        [4.5, -14.5, -5.0], [5.0, -17.5, -6.0],
    ];
    /** By how much heads differ in height over width, and whatever else is round. */
    private const HEADS_VARY = 0.07;
    private const DOMES_VARY = 0.5;
    /** How far it may pass its places by. */
    private const LOOSE = 0.3;
    private const LEFT = -8.0;
    private const LOW = -20.0;
    private const STEP = 0.5;
    private const COLUMNS = 33;
    private const ROWS = 59;

    private static ?self $head = null;
    private static ?self $dome = null;

    /**
     * @param list<float> $depths on the lattice, from its lower left
     * @param float       $varies by which share its height over its width may differ
     */
    private function __construct(private readonly array $depths, public readonly float $varies) {}

    public static function head(): self
    {
        return self::$head ??= self::through(self::HEAD, self::HEADS_VARY);
    }

    /** Half an egg as large as a head. */
    public static function dome(): self
    {
        if (self::$dome === null) {
            $places = [];
            for ($y = -12.0; $y <= 8.0; $y += 2.5) {
                for ($x = 0.0; $x <= 7.0; $x += 1.75) {
                    $places[] = [$x, $y, 5.0 * sqrt(max(0.04, 1.0 - ($x / 7.5) ** 2 - (($y + 2.0) / 11.5) ** 2))];
                }
            }
            self::$dome = self::through($places, self::DOMES_VARY);
        }

        return self::$dome;
    }

    public function depth(float $x, float $y): float
    {
        $u = max(0.0, min(self::COLUMNS - 1.001, ($x - self::LEFT) / self::STEP));
        $v = max(0.0, min(self::ROWS - 1.001, ($y - self::LOW) / self::STEP));
        $i = (int) $u;
        $j = (int) $v;
        $a = $u - $i;
        $b = $v - $j;
        $at = $j * self::COLUMNS + $i;
        $low = $this->depths[$at] + ($this->depths[$at + 1] - $this->depths[$at]) * $a;
        $at += self::COLUMNS;
        $high = $this->depths[$at] + ($this->depths[$at + 1] - $this->depths[$at]) * $a;

        return $low + ($high - $low) * $b;
    }

    /** @param list<array{float, float, float}> $half */
    private static function through(array $half, float $varies): self
    {
        $places = [];
        foreach ($half as [$x, $y, $z]) {
            $places[] = [$x, $y, $z];
            if ($x > 0.0) {
                $places[] = [-$x, $y, $z];
            }
        }
        $n = count($places);
        $a = array_fill(0, $n + 3, array_fill(0, $n + 3, 0.0));
        $b = array_fill(0, $n + 3, 0.0);
        foreach ($places as $i => [$x, $y, $z]) {
            foreach ($places as $j => [$u, $v]) {
                $a[$i][$j] = self::bent($x - $u, $y - $v);
            }
            $a[$i][$i] += self::LOOSE;
            foreach ([1.0, $x, $y] as $k => $v) {
                $a[$i][$n + $k] = $a[$n + $k][$i] = $v;
            }
            $b[$i] = $z;
        }
        $w = Linear::solve($a, $b) ?? throw new \LogicException('The places of a surface lie on one line.');
        $depths = [];
        for ($j = 0; $j < self::ROWS; ++$j) {
            for ($i = 0; $i < self::COLUMNS; ++$i) {
                [$x, $y] = [self::LEFT + $i * self::STEP, self::LOW + $j * self::STEP];
                $z = $w[$n] + $w[$n + 1] * $x + $w[$n + 2] * $y;
                foreach ($places as $k => [$u, $v]) {
                    $z += $w[$k] * self::bent($x - $u, $y - $v);
                }
                $depths[] = $z;
            }
        }

        return new self($depths, $varies);
    }

    private static function bent(float $x, float $y): float
    {
        $square = $x * $x + $y * $y;

        return $square > 0.0 ? 0.5 * $square * log($square) : 0.0;
    }
}
