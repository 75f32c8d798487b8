<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\EdgeSamples;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;

/** Outlines of lips and their opening, held to landmarks as far as the picture's edge is soft. Kernel class; pixels. */
final class HeldOutline
{
    /**
     * Across an edge and beside it, in shares of the mouth's width; the share of the change beside it that a soft and a sharp edge have
     * across.
     */
    private const CROSSED = 0.02;
    private const BESIDE = 0.07;
    private const SOFT = 0.3;
    private const SHARP = 0.65;

    /**
     * An outline as smooth as the landmarks it was looked for from: its parts go the way of those beside them. Where the picture
     * changes sharply across it, it lies there; the softer the edge, the less that says, and the more the landmarks do.
     *
     * @param list<PathPoint> $points
     * @param list<PathPoint> $landmarks as many, the corners being without handles
     *
     * @return list<PathPoint>
     */
    public static function of(FrameSource $source, int $frame, array $points, array $landmarks): array
    {
        $limber = EdgeSamples::limber($points, $landmarks);
        $corners = array_keys(array_filter($landmarks, static fn(PathPoint $p): bool => $p->outX === 0.0 && $p->outY === 0.0));
        $path = Smooth::path(array_map(static fn(PathPoint $p): array => [$p->x, $p->y], $limber), $corners);
        $sharp = self::sharp($source, $frame, $path);
        $n = count($path);
        $places = [];
        foreach ($landmarks as $i => $p) {
            // A point counts with its neighbours, so that none stands out alone.
            $share = ($sharp[($i + $n - 1) % $n] + 2 * $sharp[$i] + $sharp[($i + 1) % $n]) / 4;
            $places[] = [$p->x + $share * ($limber[$i]->x - $p->x), $p->y + $share * ($limber[$i]->y - $p->y)];
        }

        return Smooth::path($places, $corners);
    }

    /**
     * How sharply the picture changes across an outline at each of its points: 1 where the change beside it lies within a few pixels,
     * 0 where it goes on evenly, as over a soft edge or none.
     *
     * @param list<PathPoint> $path
     *
     * @return list<float>
     */
    private static function sharp(FrameSource $source, int $frame, array $path): array
    {
        [$xs, $ys] = EdgeSamples::samples($path);
        [$nx, $ny] = EdgeSamples::normals($xs, $ys);
        $width = max($xs) - min($xs);
        [$near, $far] = [self::CROSSED * $width, self::BESIDE * $width];
        $rect = Rect::around(min($xs) - $far - 2, min($ys) - $far - 2, max($xs) + $far + 2, max($ys) + $far + 2);
        $rect = $rect->intersect($source->frame());
        if ($rect->isEmpty()) {
            return array_fill(0, count($path), 0.0);
        }
        $planes = $source->colour($frame, $rect);
        $colours = [];
        foreach ($planes->r as $i => $r) {
            $colours[] = [$r, $planes->g[$i], $planes->b[$i]];
        }
        $at = static function (float $x, float $y) use ($colours, $rect): array {
            $i = max(0, min($rect->width - 1, (int) floor($x) - $rect->x));

            return $colours[max(0, min($rect->height - 1, (int) floor($y) - $rect->y)) * $rect->width + $i];
        };
        $across = static function (int $k, float $off) use ($at, $xs, $ys, $nx, $ny): float {
            $in = $at($xs[$k] - $off * $nx[$k], $ys[$k] - $off * $ny[$k]);
            $out = $at($xs[$k] + $off * $nx[$k], $ys[$k] + $off * $ny[$k]);

            return sqrt(($in[0] - $out[0]) ** 2 + ($in[1] - $out[1]) ** 2 + ($in[2] - $out[2]) ** 2);
        };
        $each = intdiv(count($xs), count($path));
        $sharp = [];
        foreach (array_keys($path) as $i) {
            $here = $beside = 0.0;
            for ($k = $i * $each - intdiv($each, 2); $k <= $i * $each + intdiv($each, 2); ++$k) {
                $j = ($k + count($xs)) % count($xs);
                $here += $across($j, $near);
                $beside += $across($j, $far);
            }
            $sharp[] = max(0.0, min(1.0, ($here / max(1e-6, $beside) - self::SOFT) / (self::SHARP - self::SOFT)));
        }

        return $sharp;
    }
}
