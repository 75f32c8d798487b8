<?php

declare(strict_types=1);

namespace Cossel\Core\Outline\Internal;

/** The straight pieces of a closed edge, and distances to them. Kernel class. */
final readonly class Pieces
{
    /** @var list<float> from each corner to the next */
    private array $dx;
    /** @var list<float> */
    private array $dy;
    /** @var list<float> squared lengths */
    private array $squares;

    /**
     * @param list<float> $xs corners in order
     * @param list<float> $ys
     */
    public function __construct(private array $xs, private array $ys)
    {
        $dx = $dy = $squares = [];
        foreach ($xs as $i => $x) {
            $j = $i + 1 === count($xs) ? 0 : $i + 1;
            $dx[] = $a = $xs[$j] - $x;
            $dy[] = $b = $ys[$j] - $ys[$i];
            $squares[] = max(1e-18, $a * $a + $b * $b);
        }
        [$this->dx, $this->dy, $this->squares] = [$dx, $dy, $squares];
    }

    /**
     * Squared distances of a point to some of the pieces.
     *
     * @param list<int> $near
     *
     * @return non-empty-list<float>
     */
    public function distances(array $near, float $x, float $y): array
    {
        [$xs, $ys, $dx, $dy, $squares] = [$this->xs, $this->ys, $this->dx, $this->dy, $this->squares];
        $distances = [];
        foreach ($near as $i) {
            $u = $x - $xs[$i];
            $v = $y - $ys[$i];
            $t = ($u * $dx[$i] + $v * $dy[$i]) / $squares[$i];
            $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
            $u -= $t * $dx[$i];
            $v -= $t * $dy[$i];
            $distances[] = $u * $u + $v * $v;
        }

        return $distances;
    }

    /**
     * The least squared distance of points in a row, a pixel apart, to some of the pieces; over the squared measure of what is nearest,
     * where there are measures.
     *
     * @param list<int>   $near
     * @param list<float> $measures of the corners, blended between them; none for 1 everywhere
     *
     * @return list<float>
     */
    public function least(array $near, float $x, float $y, int $n, array $measures): array
    {
        [$xs, $ys, $dx, $dy, $squares] = [$this->xs, $this->ys, $this->dx, $this->dy, $this->squares];
        $last = count($xs) - 1;
        $measured = $measures !== [];
        $out = [];
        for ($i = 0; $i < $n; ++$i, $x += 1.0) {
            $least = INF;
            $nearest = 0;
            $along = 0.0;
            foreach ($near as $k) {
                $u = $x - $xs[$k];
                $v = $y - $ys[$k];
                $a = $dx[$k];
                $b = $dy[$k];
                $t = ($u * $a + $v * $b) / $squares[$k];
                if ($t > 0.0) {
                    if ($t > 1.0) {
                        $t = 1.0;
                    }
                    $u -= $t * $a;
                    $v -= $t * $b;
                }
                $d = $u * $u + $v * $v;
                if ($d < $least) {
                    $least = $d;
                    $nearest = $k;
                    $along = $t;
                }
            }
            if ($measured) {
                $next = $nearest === $last ? 0 : $nearest + 1;
                $measure = $measures[$nearest] + ($measures[$next] - $measures[$nearest]) * max(0.0, $along);
                $least /= $measure * $measure;
            }
            $out[] = $least;
        }

        return $out;
    }
}
