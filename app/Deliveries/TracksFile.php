<?php

declare(strict_types=1);

namespace App\Deliveries;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Track;
use Cossel\Core\Outline\Pose;
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
     * @param array<string, Track>                               $tracks by sha256
     * @param array<string, array{mixed, string, int|null, Motion}> $wanted by name: area, and shape where that is followed for itself
     * @param array<string, list<array{float, float}>>           $points by area, picture heights on its outline's frame
     */
    public static function written(Recipe $recipe, array $tracks, array $wanted, array $points): string
    {
        $motions = new Motions($recipe, $tracks);
        $documents = [];
        foreach ($wanted as $name => [, $id, $shape, $motion]) {
            $area = $recipe->area($id);
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
