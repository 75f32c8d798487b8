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
    /** @var list<float> what squared distances are times at their beginning, and by how much more at their end */
    private array $times;
    /** @var list<float> */
    private array $more;
    /** @var list<float> the least and the most of their measures */
    private array $least;
    /** @var list<float> */
    private array $most;

    /**
     * @param list<float> $xs       corners in order
     * @param list<float> $ys
     * @param list<float> $measures of the corners that distances are told over, blended between them; none for 1 everywhere
     */
    public function __construct(private array $xs, private array $ys, array $measures = [])
    {
        $dx = $dy = $squares = $times = $more = $least = $most = [];
        foreach ($xs as $i => $x) {
            $j = $i + 1 === count($xs) ? 0 : $i + 1;
            $dx[] = $a = $xs[$j] - $x;
            $dy[] = $b = $ys[$j] - $ys[$i];
            $squares[] = max(1e-18, $a * $a + $b * $b);
            $from = $measures[$i] ?? 1.0;
            $to = $measures[$j] ?? 1.0;
            $times[] = $from ** -2;
            $more[] = $to ** -2 - $from ** -2;
            $least[] = min($from, $to);
            $most[] = max($from, $to);
        }
        [$this->dx, $this->dy, $this->squares] = [$dx, $dy, $squares];
        [$this->times, $this->more, $this->least, $this->most] = [$times, $more, $least, $most];
    }

    /**
     * Distances of a point to some of the pieces.
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
            $distances[] = sqrt($u * $u + $v * $v);
        }

        return $distances;
    }

    /**
     * How near, over their measures, some of the pieces are to anything within a reach of a point, at the nearest and at the furthest.
     *
     * @param list<int>             $near
     * @param non-empty-list<float> $distances of these to the point
     *
     * @return array{float, float}
     */
    public function range(array $near, array $distances, float $reach): array
    {
        $from = $to = INF;
        foreach ($near as $i => $k) {
            $d = $distances[$i];
            $low = ($d - $reach) / ($d > $reach ? $this->most[$k] : $this->least[$k]);
            $high = ($d + $reach) / $this->least[$k];
            $from = $low < $from ? $low : $from;
            $to = $high < $to ? $high : $to;
        }

        return [$from, $to];
    }

    /**
     * Those of some pieces that come as near as that anywhere within the reach.
     *
     * @param list<int>             $near
     * @param non-empty-list<float> $distances
     *
     * @return list<int>
     */
    public function within(float $range, array $near, array $distances, float $reach): array
    {
        $kept = [];
        foreach ($near as $i => $k) {
            if ($distances[$i] <= ($range * $this->most[$k] + $reach) * (1 + 1e-9)) {
                $kept[] = $k;
            }
        }

        return $kept;
    }

    /**
     * The least squared distance of points in a row, a pixel apart, to some of the pieces, each over its own measure: where two edges meet,
     * of which one is seen narrow, what is drawn by it does not jump.
     *
     * @param list<int> $near
     *
     * @return list<float>
     */
    public function least(array $near, float $x, float $y, int $n): array
    {
        [$xs, $ys, $dx, $dy, $squares] = [$this->xs, $this->ys, $this->dx, $this->dy, $this->squares];
        [$times, $more] = [$this->times, $this->more];
        $out = [];
        for ($i = 0; $i < $n; ++$i, $x += 1.0) {
            $least = INF;
            foreach ($near as $k) {
                $u = $x - $xs[$k];
                $v = $y - $ys[$k];
                $a = $dx[$k];
                $b = $dy[$k];
                $over = $times[$k];
                $t = ($u * $a + $v * $b) / $squares[$k];
                if ($t > 0.0) {
                    if ($t > 1.0) {
                        $t = 1.0;
                    }
                    $u -= $t * $a;
                    $v -= $t * $b;
                    $over += $more[$k] * $t;
                }
                $d = ($u * $u + $v * $v) * $over;
                if ($d < $least) {
                    $least = $d;
                }
            }
            $out[] = $least;
        }

        return $out;
    }
}
