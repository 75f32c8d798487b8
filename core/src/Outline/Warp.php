<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Recipe\PathPoint;

/**
 * How the points of a followed path have moved on their own, carried over to any path near it: each point takes the
 * shifts of the nearest place on the followed path. So points can be moved, added and taken away afterwards.
 */
final readonly class Warp
{
    /** Straight pieces that stand in for a Bézier piece when the nearest place is looked for. */
    private const PIECES = 8;

    /**
     * @param list<PathPoint> $from the followed path as it is stated
     * @param list<PathPoint> $to   where its points are, the common motion taken off
     */
    public function __construct(private array $from, private array $to) {}

    /**
     * @param list<PathPoint> $points
     *
     * @return list<PathPoint>
     */
    public function path(array $points): array
    {
        return array_map(function (PathPoint $p): PathPoint {
            [$i, $t] = $this->nearest($p->x, $p->y);
            $next = ($i + 1) % count($this->from);
            $a = $this->from[$i];
            $b = $this->from[$next];
            $was = $a->mixed($b, $t);
            $now = $this->to[$i]->mixed($this->to[$next], $t);

            return new PathPoint(
                $p->x + $now->x - $was->x,
                $p->y + $now->y - $was->y,
                $p->inX + $now->inX - $was->inX,
                $p->inY + $now->inY - $was->inY,
                $p->outX + $now->outX - $was->outX,
                $p->outY + $now->outY - $was->outY,
            );
        }, $points);
    }

    /** @return array{int, float} a piece of the followed path and how far along it */
    private function nearest(float $x, float $y): array
    {
        $best = INF;
        $found = [0, 0.0];
        foreach ($this->from as $i => $a) {
            $b = $this->from[($i + 1) % count($this->from)];
            for ($k = 0; $k < self::PIECES; ++$k) {
                [$px, $py] = Contour::on($a, $b, $k / self::PIECES);
                $d = ($px - $x) ** 2 + ($py - $y) ** 2;
                if ($d < $best) {
                    $best = $d;
                    $found = [$i, $k / self::PIECES];
                }
            }
        }

        return $found;
    }
}
