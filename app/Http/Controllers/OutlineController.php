<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\FrameCache;
use App\Http\Requests\EdgeRequest;
use App\Http\Requests\FrameRequest;
use App\Http\Requests\TextRequest;
use App\Models\Shot;
use App\Treatment\OutlineFiles;
use App\Treatment\Recipes;
use App\Treatment\Renderers;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\EdgePath;
use Cossel\Core\Outline\SvgOutline;
use Cossel\Core\Recipe\PathPoint;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** What helps with drawing outlines: paths along visible edges, and SVG in and out. */
final class OutlineController
{
    /** A path along the picture's edges between two clicks, in picture heights of the frame. */
    public function edge(EdgeRequest $request, Shot $shot, FrameCache $frames): JsonResponse
    {
        $frame = $frames->frame($shot->readyFootage()->file(), $request->frame(), 1080);
        $height = $frame->format->height;
        $pixels = static fn(array $p): array => [$p[0] * $height, $p[1] * $height];
        [$from, $to] = array_map($pixels, $request->ends());
        abort_if(hypot($to[0] - $from[0], $to[1] - $from[1]) > EdgePath::FURTHEST, 422, 'These two places are too far apart for a path along edges. Click in between.');
        $window = EdgePath::window($from, $to, $frame->format->rect());
        $unit = Matrix::of([1 / $height, 0, 0, 0, 1 / $height, 0, 0, 0, 1]);
        $points = array_map(static fn(PathPoint $p): PathPoint => $p->moved($unit), EdgePath::between($frame->window($window), $from, $to));

        return new JsonResponse(['points' => array_map(self::point(...), $points)]);
    }

    /** The paths of an SVG document, in picture heights. */
    public function read(TextRequest $request): JsonResponse
    {
        try {
            $paths = SvgOutline::read($request->text());
        } catch (\DomainException $reason) {
            abort(422, $reason->getMessage());
        }

        return new JsonResponse(['paths' => array_map(static fn(array $path): array => array_map(self::point(...), $path), $paths)]);
    }

    /** An area's outline as it stands on a frame, as an SVG file. */
    public function write(FrameRequest $request, Shot $shot, string $area, Recipes $recipes, Renderers $renderers): Response
    {
        $frame = $request->frame();
        $recipe = $recipes->recipe($shot);
        $chosen = $recipe->area($area);
        $svg = OutlineFiles::svg($recipe, $renderers->motions($recipe), $chosen, $frame);
        $name = Str::slug("{$shot->name} {$chosen->name} {$frame}", '_');

        return new Response($svg, 200, ['Content-Type' => 'image/svg+xml', 'Content-Disposition' => "attachment; filename=\"{$name}.svg\""]);
    }

    /** @return array{at: list<float>, in: list<float>, out: list<float>} */
    private static function point(PathPoint $p): array
    {
        $round = static fn(float ...$v): array => array_map(static fn(float $n): float => round($n, 6), array_values($v));

        return ['at' => $round($p->x, $p->y), 'in' => $round($p->inX, $p->inY), 'out' => $round($p->outX, $p->outY)];
    }
}
