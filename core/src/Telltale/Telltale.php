<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;

/**
 * A sign by which a treatment gives itself away. It looks at one frame at a time and keeps a few numbers of each; from
 * those of the whole shot it tells its measure on every frame. Looks of different frames may be taken in any order and
 * on different machines.
 *
 * @phpstan-type Looks array<int, list<float>>
 */
abstract readonly class Telltale
{
    /**
     * @param string $sentence what is to be seen
     * @param float  $limit    the measure it may have before it rings, unless the user says otherwise
     * @param float  $most     the greatest limit that can be set
     * @param bool   $isFine   whether it has to see pores and grain: then it looks at some frames only, at their own size
     * @param bool   $isLocal  whether a frame and those beside it tell its measure there
     */
    public function __construct(
        public string $name,
        public string $sentence,
        public string $unit,
        public float $limit,
        public float $most,
        public bool $isFine = false,
        public bool $isLocal = true,
    ) {}

    /** Whether it concerns an area of the recipe; null is the whole frame. */
    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area !== null;
    }

    /** @return list<float>|null what it keeps of a frame; null where there is nothing to see */
    abstract public function look(Seen $seen): ?array;

    /**
     * Its measure on each frame that tells something; of most, all that they keep.
     *
     * @param array<string, Looks> $looks of all areas it concerns, by id
     *
     * @return array<int, float> by frame
     */
    public function measures(array $looks, Recipe $recipe, ?Area $area): array
    {
        return array_map(static fn(array $look): float => $look[0], $looks[$area->id ?? ''] ?? []);
    }

    /**
     * What the footage has of it untreated, where that is over the limit by itself.
     *
     * @param array<string, Looks> $looks of all areas it concerns, by id
     *
     * @return string|null a sentence
     */
    public function before(array $looks, Recipe $recipe, ?Area $area): ?string
    {
        return null;
    }

    /** @return list<Cure|null> what would quieten it; null for those that do not fit */
    public function cures(Finding $finding, Recipe $recipe): array
    {
        return [Cure::weaker($finding, $recipe)];
    }
}
