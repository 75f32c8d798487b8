<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/**
 * Shows other footage in place: its frame `number + first` (its own first or last frame before and after), as high as the
 * picture times `scale`, its middle moved by moveX and moveY picture heights from the picture's. With `ride` "area" it
 * goes along with the area's motion. Read bilinearly; beyond its edges the picture underneath stays.
 */
final class Insert implements Kind
{
    use Pointwise;

    public function name(): string
    {
        return 'insert';
    }

    public function parameters(): array
    {
        return [
            new Asset('file', 'footage'),
            new Number('first', -100_000, 100_000, 0, 'frames'),
            new Number('scale', 0.05, 20, 1),
            new Number('moveX', -5, 5, 0, 'heights'),
            new Number('moveY', -5, 5, 0, 'heights'),
            new Choice('ride', ['frame', 'area']),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['file'] === null;
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $rows = $site->rows();
        $frame = $site->assets->frame($values['file'], $site->number + (int) round($values['first']), (int) ceil($rows * $values['scale']));
        $size = $frame->format;
        $middle = $site->untreated->format->width / $rows / 2;
        // From pixels of the picture to pixels of what is shown.
        $map = Matrix::of([$size->height, 0, $size->width / 2, 0, $size->height, $size->height / 2, 0, 0, 1])
            ->times(Matrix::of([1 / $values['scale'], 0, -($middle + $values['moveX']) / $values['scale'], 0, 1 / $values['scale'], -(0.5 + $values['moveY']) / $values['scale'], 0, 0, 1]));
        if ($values['ride'] === 'area' && $site->extent !== null) {
            $map = $map->times($site->extent->motion->inverse());
        }
        $map = $map->times(Matrix::of([1 / $rows, 0, 0, 0, 1 / $rows, 0, 0, 0, 1]));
        $at = $weight->matte->rect;
        $corners = [$map->apply($at->x, $at->y), $map->apply($at->right(), $at->y), $map->apply($at->x, $at->bottom()), $map->apply($at->right(), $at->bottom())];
        $window = Rect::around(min(array_column($corners, 0)), min(array_column($corners, 1)), max(array_column($corners, 0)), max(array_column($corners, 1)))->grow(1)->intersect($size->rect());
        if ($window->isEmpty()) {
            return;
        }
        self::lay($planes, $weight, $frame->window($window), $map, $size->rect());
    }

    private static function lay(Planes $planes, Weight $weight, Planes $shown, Matrix $map, Rect $whole): void
    {
        $at = $weight->matte->rect;
        $from = $shown->rect;
        $j = 0;
        for ($y = $at->y; $y < $at->bottom(); ++$y) {
            for ($x = $at->x, $i = ($y - $planes->rect->y) * $planes->rect->width + $at->x - $planes->rect->x; $x < $at->right(); ++$x, ++$i, ++$j) {
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
