<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Finding\Finder;
use App\Following\Together;
use App\Treatment\AssetFiles;
use App\Treatment\FreshIds;
use Cossel\Core\Carry\AreaTones;
use Cossel\Core\Carry\Carried;
use Cossel\Core\Carry\Carrying;
use Cossel\Core\Carry\Matching;
use Cossel\Core\Carry\MovedPick;
use Cossel\Core\Carry\Place;
use Cossel\Core\Carry\Tones;
use Cossel\Core\Carry\Treatment;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;

/**
 * Carries a treatment from one piece of footage to another: finds the person, lays the treatment on the same parts, follows them, meets
 * the look.
 */
final class CarryOver
{
    /** Likenesses that differ by less are as good as each other, and what stands for one that nothing is known of. */
    private const ALIKE = 0.5;
    private const UNKNOWN = 9.0;
    /** CIEDE2000 from which one asks whether it is the same person. */
    private const STRANGE = 30.0;

    public function __construct(
        private readonly RecipeWriter $writer,
        private readonly Finder $finder,
        private readonly Together $together,
        private readonly AssetFiles $assets,
        private readonly Frames $frames,
        private readonly People $people,
    ) {}

    /**
     * What is carried of a shot, with what it looks like there.
     *
     * @param array{areas: list<string>, base: bool, finish: bool, match: bool, touches?: list<string>|null} $what
     * @param bool                                                              $whole whether all is looked up that can be needed once the footage is not at hand
     */
    public function treatment(Scene $from, array $what, bool $whole = false): Treatment
    {
        $source = $from->recipe;
        $areas = array_map($source->area(...), $what['areas']);
        $look = $this->tones($from, $this->frames->of($from->footage, Frames::numbers($source->source->span)));
        $treatment = Treatment::of($source, $from->motions(), $what['areas'], $what['base'], $what['finish'], $what['match'] ? self::results($look, $areas) : [], self::given($look, $areas), $what['touches'] ?? null);

        return $whole ? $treatment->withMarks($this->marks($from, $treatment)) : $treatment;
    }

    /**
     * @param Scene|null             $from    where the treatment comes from, if that is at hand
     * @param string|null            $person  whose the areas become
     * @param bool                   $replace whether touches of parts that are treated already give way
     * @param callable(string): void $tell    what is being done
     *
     * @throws CannotCarry
     */
    public function proposed(Treatment $treatment, ?Scene $from, Scene $to, ?string $person, bool $replace, callable $tell): Proposed
    {
        $target = $to->recipe;
        $areas = $treatment->areas;
        $ids = new FreshIds($this->writer->json($target));
        $words = [];
        [$frame, $proposals] = [Frames::numbers($target->source->span)[0], []];
        if ($areas !== [] && self::lacks($treatment, $target, $person)) {
            $tell('Looking for the person');
            $treatment = $from === null ? $treatment : $treatment->withMarks($this->marks($from, $treatment));
            [$frame, $found, $words] = $this->found($from, $to, $treatment, $ids);
            $proposals = $found === null ? [] : $found->proposals;
        }
        $carried = (new Carrying($treatment, $target, $to->motions(), $proposals, $frame, $person, $replace, $ids->of(...)))->carried();
        if ($areas !== [] && $carried->areas === [] && $treatment->base === null && $treatment->finish === null) {
            throw new CannotCarry(implode('. ', [...$words, ...$carried->words]) . '.');
        }
        [$recipe, $tracks, $weak] = $this->together->follow($to->footage, $carried->recipe, $carried->new, $to->tracks, $frame, static fn(Area $area) => $tell("Following {$area->name}"));

        $tell('Meeting the look');
        $frames = $this->frames->of($to->footage, array_values(array_unique([$frame, ...Frames::numbers($target->source->span)])));
        [$recipe, $moved] = $this->moved($treatment, $carried, new Scene($to->footage, $recipe, $tracks), $frames);
        $matched = (new Matching((new Scene($to->footage, $recipe, $tracks))->motions(), $frames, $ids->of(...), $this->assets->of($recipe)))->matched($recipe, self::wanted($treatment, $carried));
        $strange = array_filter($matched->misses, static fn(array $miss): bool => $miss[0] > self::STRANGE);
        $doubts = array_map(static fn(string $id): string => "{$matched->recipe->area($id)->name}: far from what it comes from, this may be somebody else", array_keys($strange));

        return new Proposed($matched->recipe, $tracks, $frame, $matched->misses, [...$words, ...$carried->words, ...$moved, ...$weak, ...$doubts]);
    }

    /**
     * Picks are moved with the light.
     *
     * @param array<int, Frame> $frames by number
     *
     * @return array{Recipe, list<string>}
     */
    private function moved(Treatment $treatment, Carried $carried, Scene $scene, array $frames): array
    {
        $recipe = $scene->recipe;
        $words = [];
        foreach ($treatment->given as $id => $from) {
            $area = isset($carried->areas[$id]) ? $recipe->area($carried->areas[$id]) : null;
            $to = $area === null ? null : $this->tones(new Scene($scene->footage, $recipe, $scene->tracks), $frames)->before($area);
            if ($area?->pick !== null && $to !== null) {
                $recipe = $recipe->withArea($area->withPick(MovedPick::of($area->pick, $from, $to)));
                $words[] = "{$area->name}: its pick was moved with the light";
            }
        }

        return [$recipe, $words];
    }

    /** @return array<string, Tones> by area of the target */
    private static function wanted(Treatment $treatment, Carried $carried): array
    {
        $wanted = [];
        foreach ($treatment->tones as $id => $tones) {
            if (isset($carried->areas[$id])) {
                $wanted[$carried->areas[$id]] = $tones;
            }
        }

        return $wanted;
    }

    /** @param array<int, Frame> $frames by number */
    private function tones(Scene $scene, array $frames): AreaTones
    {
        return new AreaTones($scene->recipe, $scene->motions(), $frames, $this->assets->of($scene->recipe));
    }

    /**
     * What areas that pick are given.
     *
     * @param list<Area> $areas
     *
     * @return array<string, Tones> by area
     */
    private static function given(AreaTones $tones, array $areas): array
    {
        $picking = array_column(array_filter($areas, static fn(Area $area): bool => $area->pick !== null), null, 'id');

        return array_filter(array_map($tones->before(...), $picking));
    }

    /**
     * What the treated parts of a person look like.
     *
     * @param list<Area> $areas
     *
     * @return array<string, Tones> by area
     */
    private static function results(AreaTones $tones, array $areas): array
    {
        $all = [];
        foreach ($areas as $area) {
            // What is linked to another area is met with that one.
            if (Part::tryFrom($area->part) !== null && $area->on && $area->touches !== []) {
                $all[$area->id] = $tones->of($area);
            }
        }

        return array_filter($all);
    }

    /** Whether something of the treatment has no part of the person to lie on yet. */
    private static function lacks(Treatment $treatment, Recipe $target, ?string $person): bool
    {
        $own = array_values(array_filter($target->areas, static fn(Area $area): bool => $area->person === $person));
        $here = array_map(static fn(Area $area): ?string => Place::of($area, $own), $own);

        $isHere = static fn(Area $area): bool => isset($treatment->places[$area->id]) && array_intersect(Place::like($treatment->places[$area->id]), $here) !== [];

        return array_filter($treatment->areas, static fn(Area $area): bool => !$isHere($area)) !== [];
    }

    /**
     * Where the parts of a person were found on the frames of outlines that were drawn by hand.
     *
     * @return array<string, array<string, array{float, float}>> by area
     */
    private function marks(Scene $from, Treatment $treatment): array
    {
        $marks = $seen = [];
        $ids = new FreshIds($this->writer->json($from->recipe));
        foreach ($treatment->areas as $area) {
            if (isset($treatment->places[$area->id])) {
                continue;
            }
            $frame = $area->outline->at;
            [$x, $y] = AreaExtent::of($area, $frame, $from->motions())->centre();
            $people = $seen[$frame] ??= $this->finder->on($from->footage, [$frame], $area->live, $ids->of(...))[$frame];
            usort($people, static fn(FoundPerson $a, FoundPerson $b): int => self::away($a, $x, $y) <=> self::away($b, $x, $y));
            if ($people !== []) {
                $found = new Recipe($from->recipe->source, areas: array_map(static fn(Proposal $p): Area => $p->area, $people[0]->proposals));
                $marks[$area->id] = Place::all($found, null, new Motions($found, []), $frame);
            }
        }

        return $marks;
    }

    private static function away(FoundPerson $person, float $x, float $y): float
    {
        [$left, $top, $width, $height] = $person->box;

        return hypot($left + $width / 2 - $x, $top + $height / 2 - $y);
    }

    /**
     * Of some frames the one that shows the person best.
     *
     * @return array{int, FoundPerson|null, list<string>}
     */
    private function found(?Scene $from, Scene $to, Treatment $treatment, FreshIds $ids): array
    {
        $span = $to->recipe->source->span;
        $known = null;
        $best = null;
        $most = 0;
        foreach (Frames::numbers($span) as $frame) {
            $people = $this->finder->on($to->footage, [$frame], new Live(...$span), $ids->of(...))[$frame];
            $most = max($most, count($people));
            $known ??= $most < 2 || $from === null ? null : $this->people->outlined($from, $treatment->areas[0]->person);
            foreach ($people as $person) {
                $sure = self::sure($person, $treatment);
                $here = $known === null ? null : $this->people->found($to, $frame, $person);
                $apart = $here === null ? self::UNKNOWN : $known?->apart($here) ?? self::UNKNOWN;
                // Who it is goes before how much of them is seen.
                $rank = [$most < 2 ? 0.0 : round($apart / self::ALIKE), -$sure, $apart];
                if ($sure > 0 && ($best === null || $rank < $best[0])) {
                    $best = [$rank, $frame, $person];
                }
            }
            if ($best !== null && -$best[0][1] >= self::parts($treatment) && $most < 2) {
                break;
            }
        }
        if ($best === null) {
            return [Frames::numbers($span)[0], null, ['Nobody was found on ' . implode(', ', self::sorted(Frames::numbers($span)))]];
        }
        $words = $most < 2 ? [] : [sprintf('%d people are seen: the one %s was taken, on frame %d', $most, $known === null ? 'most surely seen' : 'most alike', $best[1])];

        return [$best[1], $best[2], $words];
    }

    private static function parts(Treatment $treatment): int
    {
        return max(1, count($treatment->places));
    }

    /** How many of the parts that are wanted are surely seen. */
    private static function sure(FoundPerson $person, Treatment $treatment): int
    {
        $all = array_map(static fn(Proposal $p): Area => $p->area, $person->proposals);
        $wanted = array_merge(...array_map(Place::like(...), array_values($treatment->places) ?: [Part::Face->value]));

        return count(array_filter($person->proposals, static fn(Proposal $p): bool => $p->doubt === null && in_array(Place::of($p->area, $all), $wanted, true)));
    }

    /**
     * @param list<int> $numbers
     *
     * @return list<int>
     */
    private static function sorted(array $numbers): array
    {
        sort($numbers);

        return $numbers;
    }
}
