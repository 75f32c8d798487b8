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
        $shown = $this->frame->window($window)->through($map, $at, $size->rect(), NAN);
        foreach (['r', 'g', 'b'] as $channel) {
            self::lay($planes->{$channel}, $planes->rect, $shown->{$channel}, $weight);
        }
    }

    /**
     * @param list<float> $v
     * @param list<float> $shown over the weight's rectangle; nothing where it is not a number
     */
    private static function lay(array &$v, Rect $into, array $shown, Weight $weight): void
    {
        $width = $weight->rect()->width;
        foreach ($weight->rect()->rowsIn($into) as $j => $i) {
            for ($end = $i + $width; $i < $end; ++$i, ++$j) {
                $k = $weight->offset + $weight->scale * $weight->matte->v[$j];
                if ($k !== 0.0 && !is_nan($shown[$j])) {
                    $v[$i] += ($shown[$j] - $v[$i]) * $k;
                }
            }
        }
    }
}
