<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Models\Shot;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Shape;

/** Where every area is on every frame of a shot's span, as the renderer has it: handles are drawn with this. */
final class AreaPlaces
{
    public function __construct(private readonly Recipes $recipes, private readonly Renderers $renderers) {}

    /** @return array{from: int, areas: object} */
    public function of(Shot $shot): array
    {
        $recipe = $this->recipes->recipe($shot);
        $motions = $this->renderers->motions($recipe);
        $areas = [];
        foreach ($recipe->areas as $area) {
            $areas[$area->id] = self::area($area, $motions, $shot->from, $shot->to);
        }

        return ['from' => $shot->from, 'areas' => (object) $areas];
    }

    /** @return array<string, mixed> */
    private static function area(Area $area, Motions $motions, int $from, int $to): array
    {
        $track = $motions->track($area, $area->motion);
        $told = ['matrices' => [], 'confidence' => [], 'states' => [], 'open' => [], 'shapes' => []];
        for ($frame = $from; $frame <= $to; ++$frame) {
            $told['matrices'][] = self::rounded($motions->of($area, $frame)->m);
            $step = $track?->steps[$frame] ?? null;
            $told['confidence'][] = $step === null ? null : round($step->confidence, 3);
            $told['states'][] = $step?->state->value;
            $open = $motions->openness($area, $frame);
            $told['open'][] = $open === null ? null : round($open, 3);
            foreach ($area->outline->shapes as $shape) {
                $matrix = self::matrix($area, $shape, $motions, $frame);
                if ($matrix !== null) {
                    $told['shapes'][$shape->id]['matrices'][] = self::rounded($matrix->m);
                }
                $shifts = $shape instanceof Path ? self::shifts($area, $shape, $motions, $frame) : null;
                if ($shifts !== null) {
                    $told['shapes'][$shape->id]['shifts'][$frame] = $shifts;
                }
            }
        }

        return [...$told, 'shapes' => (object) $told['shapes']];
    }

    /** A shape's own motion; of what is no path, and lies on a relief, as it is there. */
    private static function matrix(Area $area, Shape $shape, Motions $motions, int $frame): ?Matrix
    {
        if ($shape instanceof Ellipse || $shape instanceof Box) {
            $pose = $motions->pose($area, $shape, $frame);
            if ($pose->parallax !== null) {
                return $pose->affineAt(...$shape->centre);
            }
        }

        return $shape->motion === null ? null : $motions->ofShape($area, $shape, $frame);
    }

    /** @return list<list<float>>|null how far each point of a path that was followed on its own has gone, with its handles */
    private static function shifts(Area $area, Path $path, Motions $motions, int $frame): ?array
    {
        $pose = $motions->pose($area, $path, $frame);
        if ($pose->warp === null && $pose->parallax === null) {
            return null;
        }
        $at = $path->at($frame)->points;

        return array_map(static fn(PathPoint $from, PathPoint $to): array => self::rounded([$to->x - $from->x, $to->y - $from->y, $to->inX - $from->inX, $to->inY - $from->inY, $to->outX - $from->outX, $to->outY - $from->outY], 5), $at, $pose->path($at));
    }

    /**
     * @param array<float> $numbers
     *
     * @return list<float>
     */
    private static function rounded(array $numbers, int $digits = 8): array
    {
        return array_values(array_map(static fn(float $v): float => round($v, $digits), $numbers));
    }
}
