<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Touch\Internal\InsertEffect;

/**
 * Shows other footage in place: its frame `number + first` (its own first or last frame before and after), as high as the
 * picture times `scale`, its middle moved by moveX and moveY picture heights from the picture's. With `ride` "area" it
 * goes along with the area's motion. Read bilinearly; beyond its edges the picture underneath stays.
 */
final class Insert implements Kind
{
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

    public function prepare(array $values, Site $site): Effect
    {
        $rows = $site->rows();
        $frame = $site->assets->frame($values['file'], $site->number + (int) round($values['first']), (int) ceil($rows * $values['scale']));
        $size = $frame->format;
        $middle = $site->untreated->format->width / $rows / 2;
        // From pixels of the picture to pixels of what is shown.
        $map = Matrix::of([$size->height, 0, $size->width / 2, 0, $size->height, $size->height / 2, 0, 0, 1])
            ->times(Matrix::of([
                1 / $values['scale'],
                0,
                -($middle + $values['moveX']) / $values['scale'],
                0,
                1 / $values['scale'],
                -(0.5 + $values['moveY']) / $values['scale'],
                0,
                0,
                1,
            ]));
        if ($values['ride'] === 'area' && $site->extent !== null) {
            $map = $map->times($site->extent->motion->inverse());
        }
        $map = $map->times(Matrix::of([1 / $rows, 0, 0, 0, 1 / $rows, 0, 0, 0, 1]));

        return new InsertEffect($frame, $map);
    }
}
