<?php

declare(strict_types=1);

namespace App\Treatment;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\SvgOutline;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;

/** Outlines as SVG documents. */
final class OutlineFiles
{
    /** An area's outline as it stands on a frame; shapes that are not drawn have no path and are left out. */
    public static function svg(Recipe $recipe, Motions $motions, Area $area, int $frame): string
    {
        $shapes = array_filter($area->outline->shapes, static fn(Shape $shape): bool => $shape->isDrawn());

        return SvgOutline::write(array_map(static fn(Shape $shape): array => [$shape->at($frame), $motions->pose($area, $shape, $frame)], array_values($shapes)), ...$recipe->source->size);
    }
}
