<?php

declare(strict_types=1);

namespace App\Deliveries;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Track;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Node;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;

/** Tracks outside the database: as followed, with corrections, and where chosen places are on every frame. */
final class TracksFile
{
    public const FORMAT = 'tracks/1';
    private const MOST_POINTS = 10_000;
    /** Picture heights from the corner of the picture. */
    private const FURTHEST = 100;

    /**
     * @param array<string, Track>                     $tracks by sha256
     * @param array<string, list<array{float, float}>> $points by area, picture heights on its outline's frame
     */
    public static function written(Recipe $recipe, array $tracks, array $points = []): string
    {
        $motions = new Motions($recipe, $tracks);
        $documents = [];
        foreach (self::wanted($recipe) as $name => [, $id, $shape, $motion]) {
            $area = $recipe->area($id);
            if (!isset($tracks[(string) $motion->track])) {
                // It was never followed.
                continue;
            }
            $document = $tracks[(string) $motion->track]->document();
            foreach ($document['frames'] as &$frame) {
                $pose = $shape === null ? $motions->followed($area, $frame['frame']) : $motions->pose($area, $area->outline->shapes[$shape], $frame['frame']);
                $frame['corrected'] = $pose->motion->m;
                if (isset($points[$id])) {
                    $frame['places'] = array_map(static fn(array $p): array => self::place($pose, ...$p), $points[$id]);
                }
            }
            $documents[$name] = $document;
        }

        return json_encode(['cossel' => self::FORMAT, 'areas' => (object) $documents], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES) . "\n";
    }

    /**
     * @return array<string, Track> by area, or area and shape
     *
     * @throws InvalidRecipe
     */
    public static function read(mixed $document): array
    {
        if (!is_array($document) || ($document['cossel'] ?? null) !== self::FORMAT || !is_array($document['areas'] ?? null)) {
            throw InvalidRecipe::at('/cossel', self::FORMAT, $document['cossel'] ?? null);
        }
        $tracks = [];
        foreach ($document['areas'] as $area => $track) {
            foreach ($track['frames'] ?? [] as $i => $frame) {
                unset($track['frames'][$i]['corrected'], $track['frames'][$i]['places']);
            }
            $tracks[(string) $area] = Track::read($track);
        }

        return $tracks;
    }

    /**
     * Points to be told of: a list of pairs for every followed area, or such a list by area.
     *
     * @return array<string, list<array{float, float}>> by area
     *
     * @throws FileProcessFailed saying what is wrong with the document
     */
    public static function points(mixed $document, string $path, Recipe $recipe): array
    {
        $ids = array_column($recipe->areas, 'id');
        $lists = is_array($document) && array_is_list($document) ? array_fill_keys($ids, $document) : $document;
        try {
            $root = Node::root($lists)->object($ids);
            $points = [];
            foreach (is_array($lists) ? array_keys($lists) : [] as $id) {
                foreach ($root->get((string) $id, 'points')->items(1, self::MOST_POINTS) as $point) {
                    [$x, $y] = array_map(static fn(Node $n): float => $n->number(-self::FURTHEST, self::FURTHEST), $point->items(2, 2));
                    $points[(string) $id][] = [$x, $y];
                }
            }
        } catch (InvalidRecipe $e) {
            throw FileProcessFailed::use("{$path}: {$e->getMessage()}");
        }

        return $points;
    }

    /**
     * The motions to follow, each after those it is seen with: an area after the areas its outline is made of.
     *
     * @return array<string, array{list<int|string>, string, int|null, Motion}> by name: place in the document, area, shape
     */
    public static function wanted(Recipe $recipe): array
    {
        $wanted = $seen = [];
        $visit = static function (Area $area) use (&$visit, &$wanted, &$seen, $recipe): void {
            if (isset($seen[$area->id])) {
                return;
            }
            $seen[$area->id] = true;
            foreach ($area->outline->shapes as $shape) {
                if ($shape instanceof AreaShape) {
                    $visit($recipe->area($shape->of));
                }
            }
            $place = ['areas', array_search($area, $recipe->areas, true)];
            foreach ($area->outline->shapes as $k => $shape) {
                if ($shape->motion?->by === Motion::FOLLOW) {
                    $wanted["{$area->id}/{$shape->id}"] = [[...$place, 'outline', 'shapes', $k, 'motion'], $area->id, $k, $shape->motion];
                }
            }
            if ($area->motion->by === Motion::FOLLOW) {
                $wanted[$area->id] = [[...$place, 'motion'], $area->id, null, $area->motion];
            }
        };
        array_map($visit, $recipe->areas);

        return $wanted;
    }

    /**
     * A table of where every area is: a line an area and frame.
     *
     * @param array{int, int} $span
     */
    public static function table(Recipe $recipe, Motions $motions, array $span): string
    {
        $names = ['xx', 'xy', 'x', 'yx', 'yy', 'y', 'px', 'py', 'p'];
        $lines = [implode(',', ['area', 'name', 'frame', 'centre_x', 'centre_y', 'confidence', 'state', ...$names])];
        foreach ($recipe->areas as $area) {
            $track = $motions->track($area, $area->motion);
            for ($frame = $span[0]; $frame <= $span[1]; ++$frame) {
                $centre = AreaExtent::of($area, $frame, $motions)->centre();
                $step = $track->steps[$frame] ?? null;
                $numbers = [...$centre, $step?->confidence];
                $words = array_map(static fn(?float $v): string => $v === null ? '' : sprintf('%.6F', $v), $numbers);
                $matrix = array_map(static fn(float $v): string => sprintf('%.9F', $v), $motions->of($area, $frame)->m);
                $lines[] = implode(',', [$area->id, '"' . str_replace('"', '""', $area->name) . '"', $frame, ...$words, $step?->state->value ?? '', ...$matrix]);
            }
        }

        return implode("\n", $lines) . "\n";
    }

    /** @return array{float, float} */
    private static function place(Pose $pose, float $x, float $y): array
    {
        if ($pose->warp !== null) {
            $p = $pose->path([new PathPoint($x, $y)])[0]->moved($pose->motion);
            [$x, $y] = [$p->x, $p->y];
        } else {
            [$x, $y] = $pose->apply($x, $y);
        }

        return [round($x, 7), round($y, 7)];
    }
}
