<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Outline\Poses;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;

/** What is carried from one shot to others: some of its areas, its base, its finish. */
final readonly class Treatment
{
    /**
     * @param array{int, int}                                    $span   frames of the shot it comes from
     * @param list<Area> $areas
     * @param array<string, string> $places by area: which part of the person it is, where that is known
     * @param array<string, array<string, array{float, float}>> $marks  by area: where the parts of its person are on its outline's frame
     * @param list<Touch>|null $base   null where it is not carried
     * @param list<Touch>|null $finish
     * @param array<string, array{sha256: string, kind: string}> $assets
     * @param array<string, Tones> $tones  by area: what it looks like treated; none where that is not to be met
     * @param array<string, Tones> $given by area: what those that pick are given
     */
    public function __construct(
        public array $span,
        public array $areas,
        public array $places = [],
        public array $marks = [],
        public ?array $base = null,
        public ?array $finish = null,
        public array $assets = [],
        public array $tones = [],
        public array $given = [],
    ) {}

    /**
     * With other marks for some of its areas, such as where the parts of a person were found there.
     *
     * @param array<string, array<string, array{float, float}>> $marks by area
     */
    public function withMarks(array $marks): self
    {
        return new self(...[...get_object_vars($this), 'marks' => [...$this->marks, ...$marks]]);
    }

    /**
     * @param list<string>         $ids   of areas
     * @param array<string, Tones> $tones
     * @param array<string, Tones> $given
     * @param list<string>|null    $only  ids of the touches that are carried; null for all
     *
     * @throws \Cossel\Core\Recipe\UnknownId
     */
    public static function of(
        Recipe $recipe,
        Poses $poses,
        array $ids,
        bool $base,
        bool $finish,
        array $tones = [],
        array $given = [],
        ?array $only = null,
    ): self {
        $areas = array_map($recipe->area(...), $ids);
        $places = $marks = [];
        foreach ($areas as $i => $area) {
            $own = array_values(array_filter($recipe->areas, static fn(Area $other): bool => $other->person === $area->person));
            // Of two that are the same part the one that is treated is meant.
            usort($own, static fn(Area $a, Area $b): int => ($a->touches === []) <=> ($b->touches === []));
            $place = Place::of($area, $own);
            if ($place !== null) {
                $places[$area->id] = $place;
            }
            $marks[$area->id] = Place::all($recipe, $area->person, $poses, $area->outline->at);
            // What is linked to an area that stays behind takes its touches along.
            if ($area->pair?->linked === true && !in_array($area->pair->with, $ids, true)) {
                $areas[$i] = $area->withTouches($recipe->touches($area));
            }
            if ($only !== null && $areas[$i]->touches !== []) {
                $areas[$i] = $areas[$i]->withTouches(self::chosen($areas[$i]->touches, $only));
            }
        }

        return new self(
            $recipe->source->span,
            $areas,
            $places,
            $marks,
            $base ? self::chosen($recipe->base, $only) : null,
            $finish ? self::chosen($recipe->finish, $only) : null,
            $recipe->assets,
            $tones,
            $given,
        );
    }

    /**
     * @param list<Touch>       $touches
     * @param list<string>|null $only
     *
     * @return list<Touch>
     */
    private static function chosen(array $touches, ?array $only): array
    {
        $isChosen = static fn(Touch $touch): bool => in_array($touch->id, $only ?? [], true);

        return $only === null ? $touches : array_values(array_filter($touches, $isChosen));
    }
}
