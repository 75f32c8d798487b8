<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/**
 * A smooth curve through points that goes up and down only where they do: cubic Hermite pieces with slopes limited
 * after F. N. Fritsch and J. Butland, "A method for constructing local monotone piecewise cubic interpolants", SIAM J.
 * Sci. Stat. Comput. 5 (1984): the slope at a point is the weighted harmonic mean of those of its two sides, or 0 at a
 * turn. Straight on beyond its ends, or round and round when it is periodic.
 */
final readonly class Spline
{
    /**
     * @param list<float> $x rising
     * @param list<float> $y
     * @param list<float> $slopes
     */
    private function __construct(private array $x, private array $y, private array $slopes, private float $period) {}

    /** @param non-empty-list<array{float, float}> $points by rising x */
    public static function through(array $points): self
    {
        $x = array_column($points, 0);
        $y = array_column($points, 1);
        $n = count($x);
        if ($n === 1) {
            return new self($x, $y, [0.0], 0.0);
        }
        $sides = self::sides($x, $y);
        $slopes = [self::end($x[1] - $x[0], $n > 2 ? $x[2] - $x[1] : 0.0, $sides[0], $sides[1] ?? $sides[0])];
        for ($i = 1; $i < $n - 1; ++$i) {
            $slopes[] = self::slope($x[$i] - $x[$i - 1], $x[$i + 1] - $x[$i], $sides[$i - 1], $sides[$i]);
        }
        $slopes[] = self::end(
            $x[$n - 1] - $x[$n - 2],
            $n > 2 ? $x[$n - 2] - $x[$n - 3] : 0.0,
            $sides[$n - 2],
            $sides[$n - 3] ?? $sides[$n - 2],
        );

        return new self($x, $y, $slopes, 0.0);
    }

    /**
     * @param non-empty-list<array{float, float}> $points by rising x within one period; one a whole period on is the first again
     */
    public static function round(array $points, float $period): self
    {
        if ($points[count($points) - 1][0] - $points[0][0] >= $period && count($points) > 1) {
            array_pop($points);
        }
        if (count($points) === 1) {
            return new self([$points[0][0]], [$points[0][1]], [0.0], 0.0);
        }
        $first = $points[0];
        $last = $points[count($points) - 1];
        // One point more on either side, so that the slopes at the seam are those of inner points.
        $whole = [[$last[0] - $period, $last[1]], ...$points, [$first[0] + $period, $first[1]], [$points[1][0] + $period, $points[1][1]]];
        $inner = self::through($whole);

        return new self(array_slice($inner->x, 1, -1), array_slice($inner->y, 1, -1), array_slice($inner->slopes, 1, -1), $period);
    }

    public function at(float $x): float
    {
        $n = count($this->x);
        if ($this->period > 0.0) {
            $x = $this->x[0] + fmod(fmod($x - $this->x[0], $this->period) + $this->period, $this->period);
        }
        if ($x <= $this->x[0]) {
            return $this->y[0] + ($x - $this->x[0]) * $this->slopes[0];
        }
        if ($x >= $this->x[$n - 1]) {
            return $this->y[$n - 1] + ($x - $this->x[$n - 1]) * $this->slopes[$n - 1];
        }
        for ($i = 0; $this->x[$i + 1] < $x; ++$i);
        $h = $this->x[$i + 1] - $this->x[$i];
        $t = ($x - $this->x[$i]) / $h;
        $u = 1 - $t;

        return $this->y[$i] * $u * $u * (1 + 2 * $t) + $this->y[$i + 1] * $t * $t * (1 + 2 * $u)
            + $h * $t * $u * ($this->slopes[$i] * $u - $this->slopes[$i + 1] * $t);
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     *
     * @return list<float>
     */
    private static function sides(array $x, array $y): array
    {
        $sides = [];
        for ($i = 0, $n = count($x) - 1; $i < $n; ++$i) {
            $sides[] = ($y[$i + 1] - $y[$i]) / ($x[$i + 1] - $x[$i]);
        }

        return $sides;
    }

    private static function slope(float $before, float $after, float $left, float $right): float
    {
        if ($left * $right <= 0.0) {
            return 0.0;
        }
        $a = 2 * $after + $before;
        $b = $after + 2 * $before;

        return ($a + $b) / ($a / $left + $b / $right);
    }

    /** One-sided slope of three points, kept from overshooting. */
    private static function end(float $near, float $far, float $side, float $next): float
    {
        if ($far === 0.0) {
            return $side;
        }
        $slope = ((2 * $near + $far) * $side - $near * $next) / ($near + $far);
        if ($slope * $side <= 0.0) {
            return 0.0;
        }

        return $side * $next <= 0.0 && abs($slope) > 3 * abs($side) ? 3 * $side : $slope;
    }
}
