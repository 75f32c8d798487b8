<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** A frame of other footage laid over the picture. */
final readonly class InsertEffect implements Effect
{
    use Pointwise;

    /** @param Matrix $map from pixels of the picture to pixels of what is shown */
    public function __construct(private Frame $frame, private Matrix $map) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        $map = $this->map;
        $size = $this->frame->format;
        $corners = [
            $map->apply($at->x, $at->y),
            $map->apply($at->right(), $at->y),
            $map->apply($at->x, $at->bottom()),
            $map->apply($at->right(), $at->bottom()),
        ];
        $window = Rect::around(
            min(array_column($corners, 0)),
            min(array_column($corners, 1)),
            max(array_column($corners, 0)),
            max(array_column($corners, 1)),
        )->grow(1)->intersect($size->rect());
        if ($window->isEmpty()) {
            return;
        }
        self::lay($planes, $weight, $this->frame->window($window), $map, $size->rect());
    }

    private static function lay(Planes $planes, Weight $weight, Planes $shown, Matrix $map, Rect $whole): void
    {
        $at = $weight->matte->rect;
        $from = $shown->rect;
        $j = 0;
        for ($y = $at->y; $y < $at->bottom(); ++$y) {
            $i = ($y - $planes->rect->y) * $planes->rect->width + $at->x - $planes->rect->x;
            for ($x = $at->x; $x < $at->right(); ++$x, ++$i, ++$j) {
                $k = $weight->offset + $weight->scale * $weight->matte->v[$j];
                if ($k === 0.0) {
                    continue;
                }
                [$px, $py] = $map->apply($x + 0.5, $y + 0.5);
                if ($px < 0.0 || $py < 0.0 || $px > $whole->width || $py > $whole->height) {
                    continue;
                }
                $px = max(0.0, min($from->width - 1.0, $px - 0.5 - $from->x));
                $py = max(0.0, min($from->height - 1.0, $py - 0.5 - $from->y));
                $cx = min((int) $px, max(0, $from->width - 2));
                $cy = min((int) $py, max(0, $from->height - 2));
                $fx = $px - $cx;
                $fy = $py - $cy;
                $o = $cy * $from->width + $cx;
                $right = $from->width > 1 ? 1 : 0;
                $below = $from->height > 1 ? $from->width : 0;
                foreach (['r', 'g', 'b'] as $channel) {
                    $v = $shown->{$channel};
                    $top = $v[$o] + ($v[$o + $right] - $v[$o]) * $fx;
                    $bottom = $v[$o + $below] + ($v[$o + $below + $right] - $v[$o + $below]) * $fx;
                    $planes->{$channel}[$i] += ($top + ($bottom - $top) * $fy - $planes->{$channel}[$i]) * $k;
                }
            }
        }
    }
}
