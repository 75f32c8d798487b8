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
        $at = $weight->rect();
        $y = $at->y;
        foreach ($at->rowsIn($planes->rect) as $j => $i) {
            for ($x = $at->x; $x < $at->right(); ++$x, ++$i, ++$j) {
                $k = $weight->offset + $weight->scale * $weight->matte->v[$j];
                [$px, $py] = $k === 0.0 ? [-1.0, -1.0] : $map->apply($x + 0.5, $y + 0.5);
                if ($px < 0.0 || $py < 0.0 || $px > $whole->width || $py > $whole->height) {
                    continue;
                }
                [$r, $g, $b] = $shown->between($px, $py);
                $planes->r[$i] += ($r - $planes->r[$i]) * $k;
                $planes->g[$i] += ($g - $planes->g[$i]) * $k;
                $planes->b[$i] += ($b - $planes->b[$i]) * $k;
            }
            ++$y;
        }
    }
}
