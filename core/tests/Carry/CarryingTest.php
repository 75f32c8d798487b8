<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Carry;

use Cossel\Core\Carry\Carried;
use Cossel\Core\Carry\Carrying;
use Cossel\Core\Carry\Likeness;
use Cossel\Core\Carry\MovedPick;
use Cossel\Core\Carry\Place;
use Cossel\Core\Carry\Span;
use Cossel\Core\Carry\Tones;
use Cossel\Core\Carry\Treatment;
use Cossel\Core\Carry\TreatmentFile;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Track;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Key;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Pick;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\UnknownId;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Tests\Face\Meshes;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\TestCase;

/** Treatments carried from shot to shot: onto the same parts, with nothing written over unasked. */
final class CarryingTest extends TestCase
{
    private const TOUCH = ['id' => 't1', 'kind' => 'exposure', 'stops' => 1];

    /**
     * @param array{float, float} $centre
     *
     * @return array<string, mixed>
     */
    private static function part(string $id, string $name, string $part, array $centre, float $radius, array $changes = []): array
    {
        return Documents::area([
            'id' => $id,
            'name' => $name,
            'part' => $part,
            'person' => 'maren',
            'outline' => ['at' => 10, 'shapes' => [['id' => "{$id}s", 'kind' => 'ellipse', 'centre' => $centre, 'radii' => [$radius, $radius]]]],
            'motion' => $id === 'face' ? ['by' => 'none', 'pivot' => $centre] : ['by' => 'ride', 'on' => 'face', 'pivot' => $centre],
            'touches' => [],
            ...$changes,
        ]);
    }

    /** A face with both irises; a spot on the cheek was drawn by hand. */
    private static function source(array $changes = []): Recipe
    {
        return Documents::read(['areas' => [
            self::part('face', 'Face', 'face', [0.9, 0.5], 0.3, ['touches' => [self::TOUCH]]),
            self::part('il', 'Left iris', 'iris', [1.0, 0.4], 0.03, ['touches' => [['id' => 't2', 'kind' => 'iris', 'strength' => 0.5]], 'blinkGuard' => ['on' => true]]),
            self::part('ir', 'Right iris', 'iris', [0.8, 0.4], 0.03, ['pair' => ['with' => 'il', 'linked' => true], 'blinkGuard' => ['on' => true]]),
            self::part('spot', 'Spot', 'other', [1.0, 0.55], 0.02, ['touches' => [['id' => 't3', 'kind' => 'conceal', 'offsetX' => 0.04, 'offsetY' => 0.02]]]),
        ], ...$changes]);
    }

    /** The same parts, half as large and further left, as they were found. @return list<Proposal> */
    private static function found(array $doubts = []): array
    {
        $recipe = Documents::read(['areas' => [
            self::part('face', 'Face', 'face', [0.5, 0.5], 0.15),
            self::part('il', 'Left iris', 'iris', [0.55, 0.45], 0.015),
            self::part('ir', 'Right iris', 'iris', [0.45, 0.45], 0.015),
        ]]);
        $area = static fn(Area $a): Area => new Area(...[...get_object_vars($a), 'id' => "n{$a->id}", 'person' => null, 'motion' => $a->motion->on === null ? $a->motion : new Motion(Motion::RIDE, pivot: $a->motion->pivot, on: 'nface')]);

        return array_map(static fn(Area $a): Proposal => new Proposal($area($a), $doubts[$a->id] ?? null), $recipe->areas);
    }

    /** @param list<Proposal> $proposals */
    private static function carried(Treatment $treatment, Recipe $target, array $proposals, bool $replace = false, ?string $person = 'maren'): Carried
    {
        $n = 0;
        $carrying = new Carrying($treatment, $target, new Motions($target, []), $proposals, 10, $person, $replace, static function (string $letter) use (&$n): string {
            return "{$letter}_" . ++$n;
        });
        $carried = $carrying->carried();
        // Whatever was carried is a whole recipe.
        (new RecipeReader(Kinds::all()))->read(json_decode((new RecipeWriter())->json($carried->recipe), true));

        return $carried;
    }

    private static function treatment(Recipe $source, string ...$ids): Treatment
    {
        return Treatment::of($source, new Motions($source, []), $ids === [] ? array_column($source->areas, 'id') : array_values($ids), false, false);
    }

    /** @return array<string, list<string>> kinds of touches by the name of the area */
    private static function done(Recipe $recipe): array
    {
        $done = [];
        foreach ($recipe->areas as $area) {
            $done[$area->name] = array_map(static fn($touch): string => $touch->kind->name(), $recipe->touches($area));
        }

        return $done;
    }

    public function test_parts_that_were_found_take_what_is_done_to_the_same_parts(): void
    {
        $carried = self::carried(self::treatment(self::source()), Documents::read(), self::found());
        self::assertSame(['Face' => ['exposure'], 'Left iris' => ['iris'], 'Right iris' => ['iris'], 'Spot' => ['conceal']], self::done($carried->recipe));
        self::assertSame([], $carried->words);
        self::assertCount(4, $carried->new);
        self::assertSame(['maren'], array_values(array_unique(array_column($carried->recipe->areas, 'person'))));
        $right = $carried->recipe->area($carried->areas['ir']);
        self::assertSame([$carried->areas['il'], true, true], [$right->pair?->with, $right->pair?->linked, $right->blinkGuard->on]);
        self::assertSame($carried->areas['face'], $right->motion->on);
    }

    public function test_what_was_drawn_goes_where_it_lies_among_the_parts(): void
    {
        $carried = self::carried(self::treatment(self::source()), Documents::read(), self::found());
        $spot = $carried->recipe->area($carried->areas['spot']);
        $shape = $spot->outline->shapes[0];
        self::assertInstanceOf(Ellipse::class, $shape);
        // Half as large: (1.0, 0.55) lies at 0.1 right of the face's middle and 0.05 under it.
        self::assertEqualsWithDelta([0.55, 0.525], $shape->centre, 1e-9);
        self::assertEqualsWithDelta([0.01, 0.01], $shape->radii, 1e-9);
        self::assertSame([10, $carried->areas['face']], [$spot->outline->at, $spot->motion->on]);
        // What is stated in the outline's own lengths goes along.
        self::assertEqualsWithDelta(0.02, $spot->touches[0]->values(0)['offsetX'], 1e-9);
        self::assertEqualsWithDelta(0.01, $spot->touches[0]->values(0)['offsetY'], 1e-9);
    }

    public function test_lengths_go_with_the_size_of_the_part(): void
    {
        $even = ['id' => 't1', 'kind' => 'even', 'tone' => 0.5, 'width' => 0.4];
        $source = Documents::read(['areas' => [self::part('face', 'Face', 'face', [0.9, 0.5], 0.3, ['touches' => [$even]])]]);
        $carried = self::carried(self::treatment($source), Documents::read(), self::found());
        self::assertEqualsWithDelta([0.2, 0.5], [$carried->recipe->areas[0]->touches[0]->values(0)['width'], $carried->recipe->areas[0]->touches[0]->values(0)['tone']], 1e-9);
    }

    public function test_skin_goes_onto_a_face_where_no_skin_is_outlined(): void
    {
        $source = Documents::read(['areas' => [self::part('face', 'Skin', 'skin', [0.9, 0.5], 0.3, ['touches' => [self::TOUCH]])]]);
        self::assertSame(['Face' => ['exposure']], self::done(self::carried(self::treatment($source), Documents::read(), self::found())->recipe));
        // Of eyes alone, what is round them is no face.
        $bridge = Documents::read(['areas' => [self::part('face', 'Brows and nose bridge', 'skin', [0.5, 0.45], 0.1, ['person' => null])]]);
        $left = self::carried(self::treatment($source), Documents::read(), [new Proposal($bridge->areas[0])]);
        self::assertSame([['Skin: left out, the face is not seen whole'], []], [$left->words, $left->recipe->areas]);
    }

    public function test_of_two_alike_the_treated_one_is_the_part(): void
    {
        $twice = [self::part('inner', 'Inner lips', 'lips', [0.9, 0.6], 0.1, ['motion' => ['by' => 'none']]), self::part('lips', 'Lips', 'lips', [0.9, 0.6], 0.12, ['motion' => ['by' => 'none'], 'touches' => [self::TOUCH]])];
        $treatment = self::treatment(Documents::read(['areas' => $twice]));
        self::assertSame(['lips' => 'lips'], $treatment->places);
        // The other one, in which nothing is done and that nothing needs, stays behind.
        self::assertSame(['Face' => [], 'Lips' => ['exposure']], self::done(self::carried($treatment, Documents::read(), [...self::found(), ...self::lips()])->recipe));
    }

    /** @return list<Proposal> */
    private static function lips(): array
    {
        $lips = Documents::read(['areas' => [self::part('lips', 'Lips', 'lips', [0.5, 0.6], 0.05, ['person' => null, 'motion' => ['by' => 'none']])]])->areas[0];

        return [new Proposal(new Area(...[...get_object_vars($lips), 'id' => 'nlips', 'motion' => new Motion(Motion::RIDE, on: 'nface')]))];
    }

    public function test_a_pick_is_moved_with_the_light(): void
    {
        $tones = static fn(float $l, float $a, float $b): Tones => new Tones([$l, $a, $b], [$l, $a, $b], [$l, $a, $b]);
        $pick = new Pick([], [350.0, 40.0, 10.0], [0.04, 0.1, 0.02], [0.0, 0.6, 0.1], 0.5);
        // Half as much chroma, a fifth more lightness, turned by 90 degrees.
        $moved = MovedPick::of($pick, $tones(0.5, 0.08, 0.0), $tones(0.6, 0.0, 0.04));
        self::assertEqualsWithDelta([[80.0, 40.0, 10.0], [0.02, 0.05, 0.02], [0.0, 0.72, 0.1], 0.6], [$moved->hue, $moved->chroma, $moved->light, $moved->follow], 1e-9);
        // What is open stays open; grey tells no hue.
        $open = MovedPick::of(new Pick(), $tones(0.5, 0.001, 0.0), $tones(0.2, 0.0, 0.1));
        self::assertEquals(new Pick(), $open);
    }

    public function test_people_are_told_apart_in_any_light(): void
    {
        $tones = static fn(float $l, float $a, float $b): Tones => new Tones([$l, $a, $b], [$l, $a, $b], [$l, $a, $b]);
        $person = static fn(float $light, float $iris, float $lips): ?Likeness => Likeness::of(['face' => $tones(0.7 * $light, 0.05 * $light, 0.06 * $light), 'iris left' => $tones(0.35 * $light, 0.0, $iris * $light), 'lips' => $tones(0.55 * $light, $lips * $light, 0.03 * $light)]);
        $one = $person(1.0, 0.02, 0.1);
        self::assertNotNull($one);
        self::assertLessThan(1e-9, $one->apart($person(0.5, 0.02, 0.1) ?? $one));
        // Roots of the mean square: an iris by .06 of .7, lips by as much.
        self::assertEqualsWithDelta(0.06 / 0.7 / sqrt(2) / 0.06, $one->apart($person(1.0, -0.04, 0.1) ?? $one), 1e-9);
        self::assertEqualsWithDelta(0.06 / 0.7 / sqrt(2) / 0.06, $one->apart($person(1.0, 0.02, 0.04) ?? $one), 1e-9);
        self::assertEquals($one, Likeness::known($one->document()));
        self::assertNull(Likeness::of(['iris left' => $tones(0.3, 0.0, 0.0)]));
        self::assertNull($one->apart(Likeness::known(['features' => ['nose' => [0.0, 0.0, 0.0]]])));
    }

    public function test_faces_tell_people_before_colours_do(): void
    {
        $tones = static fn(float $b): Tones => new Tones([0.5, 0.0, $b], [0.5, 0.0, $b], [0.5, 0.0, $b]);
        $of = static fn(float $lips, ?float $at): ?Likeness => Likeness::of(['face' => $tones(0.0), 'lips' => $tones($lips)], $at === null ? null : Meshes::descriptor($at));
        $one = $of(0.1, 0.0);
        self::assertNotNull($one);
        // Another's lips, the same face; the same lips, another's face; no face.
        self::assertEqualsWithDelta(0.0, $one->apart($of(0.4, 0.0) ?? $one), 1e-6);
        self::assertGreaterThan(1.0, $one->apart($of(0.1, 1.2) ?? $one));
        self::assertEqualsWithDelta(0.0, $one->apart($of(0.1, null) ?? $one), 1e-9);
        self::assertSame([true, false], [$one->isOfFaces($of(0.4, 1.2) ?? $one), $one->isOfFaces($of(0.1, null) ?? $one)]);
        // A face alone will do, and it is kept.
        $face = Likeness::of([], Meshes::descriptor(0.6));
        self::assertNotNull($face);
        self::assertEqualsWithDelta((1 - cos(0.6)) / 0.25, $one->apart(Likeness::known($face->document())), 0.02);
    }

    public function test_a_drawn_path_keeps_its_shape(): void
    {
        $points = [['at' => [1.0, 0.5], 'in' => [0, 0.01], 'out' => [0, -0.01]], ['at' => [1.05, 0.5]], ['at' => [1.02, 0.56]]];
        $outline = ['at' => 10, 'shapes' => [['id' => 'p', 'kind' => 'path', 'points' => $points, 'featherOut' => 0.02]]];
        $areas = json_decode((new RecipeWriter())->json(self::source()), true)['areas'];
        $source = Documents::read(['areas' => [...$areas, self::part('shade', 'Shade', 'other', [1.0, 0.5], 0.02, ['outline' => $outline, 'touches' => [['id' => 't9', 'kind' => 'exposure', 'stops' => 1]]])]]);
        $carried = self::carried(self::treatment($source, 'shade'), Documents::read(), self::found());
        $path = $carried->recipe->area($carried->areas['shade'])->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        self::assertEqualsWithDelta([0.55, 0.5, 0.005, 0.01], [$path->points[0]->x, $path->points[0]->y, $path->points[0]->inY, $path->featherOut], 1e-9);
        // Its head came in for it to ride on, untreated.
        self::assertSame(['Face' => [], 'Shade' => ['exposure']], self::done($carried->recipe));
    }

    public function test_nothing_that_is_there_is_written_over_unasked(): void
    {
        $target = Documents::read(['areas' => [
            self::part('f', 'Face', 'face', [0.5, 0.5], 0.15, ['motion' => ['by' => 'none', 'pivot' => [0.5, 0.5]], 'touches' => [['id' => 'own', 'kind' => 'blur', 'radius' => 0.01]]]),
            self::part('i', 'Left iris', 'iris', [0.55, 0.45], 0.015, ['motion' => ['by' => 'ride', 'on' => 'f', 'pivot' => [0.55, 0.45]]]),
        ]]);
        $treatment = self::treatment(self::source(), 'face', 'il');
        $beside = self::carried($treatment, $target, []);
        // The iris was not treated: it takes the touches as it is. The face was.
        self::assertSame(['Face' => ['blur'], 'Left iris' => ['iris'], 'Face 2' => ['exposure']], self::done($beside->recipe));
        self::assertSame(['Face is treated already: laid beside'], $beside->words);
        self::assertSame([], $beside->new);
        self::assertEquals($target->area('f'), $beside->recipe->area('f'));
        $replaced = self::carried($treatment, $target, [], true);
        self::assertSame(['Face' => ['exposure'], 'Left iris' => ['iris']], self::done($replaced->recipe));
        self::assertEquals($target->area('f')->outline, $replaced->recipe->area('f')->outline);
        // Of somebody else's face nothing is known.
        $other = self::carried($treatment, $target, self::found(), false, 'tove');
        self::assertSame(['Face' => ['blur'], 'Left iris' => [], 'Face 2' => ['exposure'], 'Left iris 2' => ['iris']], self::done($other->recipe));
    }

    public function test_what_is_doubtful_or_has_no_place_is_left_out_and_told(): void
    {
        $carried = self::carried(self::treatment(self::source()), Documents::read(), self::found(['il' => 'the eye is nearly closed']));
        self::assertSame(['Left iris: left out, the eye is nearly closed'], $carried->words);
        // The right one was linked to it: it does the same for itself.
        self::assertSame(['Face' => ['exposure'], 'Right iris' => ['iris'], 'Spot' => ['conceal']], self::done($carried->recipe));
        $nobody = self::carried(self::treatment(self::source(), 'spot'), Documents::read(), []);
        self::assertSame(['Spot: left out, nothing tells where it belongs here'], $nobody->words);
        self::assertSame([], $nobody->recipe->areas);
    }

    public function test_what_changes_over_the_shot_is_fitted_to_its_length(): void
    {
        $span = new Span([0, 80], [100, 140]);
        self::assertSame([100, 120, 140, 140], array_map($span->frame(...), [0, 40, 80, 200]));
        self::assertEquals(new Live(100, 140, 3, 4), $span->live(new Live(0, 80, 3, 4)));
        self::assertEquals(new Live(110, 140), $span->live(new Live(20, 80)));
        $keyed = $span->keyed(new Keyed(1.0, [new Key(20, 0.0), new Key(21, 0.5), new Key(60, 1.0)]));
        self::assertSame([[110, 0.0], [111, 0.5], [130, 1.0]], array_map(static fn(Key $k): array => [$k->frame, $k->value], $keyed->keys));

        $keys = ['value' => 1, 'keys' => [['frame' => 0, 'value' => 0], ['frame' => 83, 'value' => 1]]];
        $source = Documents::read(['areas' => [self::part('face', 'Face', 'face', [0.9, 0.5], 0.3, ['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => $keys]]])]]);
        $target = Documents::read(['source' => ['span' => [10, 50]] + Documents::recipe()['source']]);
        $carried = self::carried(self::treatment($source), $target, self::found());
        $touch = $carried->recipe->areas[0]->touches[0];
        self::assertSame([0.0, 1.0], [$touch->values(10)['stops'], $touch->values(50)['stops']]);
        self::assertSame(['Face: what changes over the shot was fitted to its length'], $carried->words);
        self::assertEquals(new Live(10, 50), $carried->recipe->areas[0]->live);
    }

    public function test_base_and_finish_go_along_where_they_are_asked_for(): void
    {
        $source = Documents::read(['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5]], 'finish' => [['id' => 'f', 'kind' => 'legal']]]);
        $treatment = static fn(bool $base, bool $finish): Treatment => Treatment::of($source, new Motions($source, []), [], $base, $finish);
        $kinds = static fn(array $touches): array => array_map(static fn($t): string => $t->kind->name(), $touches);
        $carried = self::carried($treatment(true, true), Documents::read(), []);
        self::assertSame([['exposure'], ['legal']], [$kinds($carried->recipe->base), $kinds($carried->recipe->finish)]);
        self::assertSame([], self::carried($treatment(false, true), Documents::read(), [])->recipe->base);
        $set = Documents::read(['base' => [['id' => 'own', 'kind' => 'blur', 'radius' => 0.01]]]);
        $beside = self::carried($treatment(true, false), $set, []);
        self::assertSame([['blur', 'exposure'], ['The base is set already: laid after it']], [$kinds($beside->recipe->base), $beside->words]);
        self::assertSame(['exposure'], $kinds(self::carried($treatment(true, false), $set, [], true)->recipe->base));
    }

    public function test_files_of_one_name_do_not_fall_together(): void
    {
        $cube = static fn(string $letter): array => ['sha256' => str_repeat($letter, 64), 'kind' => 'cube'];
        $lut = [['id' => 'l', 'kind' => 'lut', 'file' => 'look']];
        $source = Documents::read(['assets' => ['look' => $cube('a')], 'base' => $lut]);
        $target = Documents::read(['assets' => ['look' => $cube('b')]]);
        $carried = self::carried(Treatment::of($source, new Motions($source, []), [], true, false), $target, []);
        self::assertSame(['look' => $cube('b'), 'look-2' => $cube('a')], $carried->recipe->assets);
        self::assertSame('look-2', $carried->recipe->base[0]->settings['file']);
        $same = self::carried(Treatment::of($source, new Motions($source, []), [], true, false), $source, [], true);
        self::assertSame([['look' => $cube('a')], 'look'], [$same->recipe->assets, $same->recipe->base[0]->settings['file']]);
    }

    public function test_a_linked_area_that_comes_alone_takes_its_touches_along(): void
    {
        $carried = self::carried(self::treatment(self::source(), 'ir'), Documents::read(), self::found());
        self::assertSame(['Face' => [], 'Right iris' => ['iris']], self::done($carried->recipe));
    }

    public function test_sides_are_told_by_name_or_by_where_they_are(): void
    {
        $iris = static fn(string $id, string $name, float $x): array => self::part($id, $name, 'iris', [$x, 0.4], 0.03, ['motion' => ['by' => 'none', 'pivot' => [$x, 0.4]]]);
        $places = static function (array ...$areas): array {
            $recipe = Documents::read(['areas' => $areas]);

            return array_map(static fn(Area $a): ?string => Place::of($a, $recipe->areas), $recipe->areas);
        };
        self::assertSame(['iris left', 'iris right'], $places($iris('a', 'Left iris', 1.0), $iris('b', 'Right iris', 0.8)));
        self::assertSame(['iris right', 'iris left'], $places($iris('a', 'One', 0.8), $iris('b', 'Two', 1.0)));
        self::assertSame([null], $places($iris('a', 'One', 0.8)));
        self::assertSame(['iris left', null], $places($iris('a', 'Left iris', 0.8), $iris('b', 'Left iris 2', 0.8)));
        self::assertSame(['face', null], $places(self::part('face', 'Face', 'face', [0.9, 0.5], 0.3), self::part('f2', 'Face 2', 'face', [0.9, 0.5], 0.3)));
    }

    public function test_people_are_carried_by_whom_they_mean(): void
    {
        $people = static fn(string $id, string $name, array $shape, bool $invert): array => self::part($id, $name, 'other', [0.9, 0.5], 0.1, ['touches' => [['id' => "t{$id}", 'kind' => 'exposure', 'stops' => 0.5]], 'motion' => ['by' => 'none'], 'outline' => ['at' => 10, 'invert' => $invert, 'shapes' => [['id' => "s{$id}", 'kind' => 'people', ...$shape]]]]);
        $round = $people('round', 'Surroundings', [], true);
        $one = $people('one', 'Whole person', ['place' => [1.0, 0.6], 'featherOut' => 0.04], false);
        $source = Documents::read(['areas' => [...json_decode((new RecipeWriter())->json(self::source()), true)['areas'], $round, $one]]);
        $target = Documents::read([]);

        // Where nobody is found: all but the people are the same anywhere; nothing tells who is meant.
        $carried = self::carried(self::treatment($source, 'round', 'one'), $target, []);
        self::assertSame(['Surroundings'], array_column($carried->recipe->areas, 'name'));
        self::assertTrue($carried->recipe->areas[0]->outline->invert);
        self::assertStringContainsString('Whole person: left out', implode(' ', $carried->words));

        // Found half as large and further left, whoever is meant is pointed at there.
        $treatment = Treatment::of($source, new Motions($source, []), ['one'], false, false);
        $marked = $treatment->withMarks(['one' => ['face' => [0.9, 0.5], 'iris left' => [1.0, 0.4], 'iris right' => [0.8, 0.4]]]);
        $carried = self::carried($marked, $target, self::found());
        $shape = $carried->recipe->areas[array_key_last($carried->recipe->areas)]->outline->shapes[0];
        self::assertInstanceOf(People::class, $shape);
        self::assertEqualsWithDelta([0.55, 0.55], $shape->place, 0.01);
        self::assertEqualsWithDelta(0.02, $shape->featherOut, 0.001);
    }

    public function test_a_treatment_kept_in_a_file_is_carried_as_from_its_shot(): void
    {
        $followed = ['by' => 'follow', 'start' => 10, 'span' => [0, 83], 'model' => 'similarity', 'track' => ['sha256' => str_repeat('cd', 32)], 'pivot' => [0.9, 0.5]];
        $source = self::source(['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5]]]);
        $face = self::part('face', 'Face', 'face', [0.9, 0.5], 0.3, ['touches' => [self::TOUCH], 'motion' => $followed]);
        $source = $source->withArea(Documents::read(['areas' => [$face]])->areas[0]);
        $tones = new Tones([0.5, 0.08, 0.02], [0.6, 0.08, 0.02], [0.4, 0.07, 0.01]);
        $motions = new Motions($source, [str_repeat('cd', 32) => Track::beginning(10, Model::Similarity)]);
        $treatment = Treatment::of($source, $motions, ['face', 'il', 'ir', 'spot'], true, false, ['face' => $tones]);
        $document = json_decode((string) json_encode(TreatmentFile::document($treatment, $source, new RecipeWriter())), true);
        self::assertArrayNotHasKey('source', $document);
        self::assertStringNotContainsString('cdcdcd', (string) json_encode($document));
        self::assertTrue(TreatmentFile::is($document));
        self::assertFalse(TreatmentFile::is(Documents::recipe()));
        $read = TreatmentFile::read($document, new RecipeReader(Kinds::all()));
        self::assertEquals($treatment->tones, $read->tones);
        self::assertSame([$treatment->places, $treatment->span, 1, null], [$read->places, $read->span, count($read->base ?? []), $read->finish]);
        self::assertEqualsWithDelta($treatment->marks, $read->marks, 1e-9);
        $there = Documents::read();
        self::assertEquals(self::carried($treatment, $there, self::found())->recipe, self::carried($read, $there, self::found())->recipe);
    }

    public function test_of_a_kept_treatment_only_what_it_needs_comes_along(): void
    {
        $source = self::source();
        $document = TreatmentFile::document(Treatment::of($source, new Motions($source, []), ['ir'], false, false), $source, new RecipeWriter());
        // The iris rides on the face; the one it was linked to stays behind, its touches come along.
        self::assertSame(['face', 'ir'], array_column($document['areas'], 'id'));
        $read = TreatmentFile::read(json_decode((string) json_encode($document), true), new RecipeReader(Kinds::all()));
        self::assertSame(['ir'], array_column($read->areas, 'id'));
        self::assertSame(['Right iris' => ['iris']], array_intersect_key(self::done(self::carried($read, Documents::read(), self::found())->recipe), ['Right iris' => 0]));
        foreach (['span' => [5, 2], 'tones' => ['face' => [1, 2]], 'areas' => ['nobody'], 'places' => 3] as $field => $wrong) {
            $broken = json_decode((string) json_encode([...$document, 'carry' => [...$document['carry'], $field => $wrong]]), true);
            $told = null;
            try {
                TreatmentFile::read($broken, new RecipeReader(Kinds::all()));
            } catch (InvalidRecipe|UnknownId $reason) {
                $told = $reason->getMessage();
            }
            self::assertNotNull($told, $field);
        }
    }

    public function test_single_touches_are_carried_without_the_others(): void
    {
        $two = [self::TOUCH, ['id' => 't9', 'kind' => 'colour', 'saturation' => 0.8]];
        $source = Documents::read(['base' => [['id' => 'b1', 'kind' => 'exposure', 'stops' => 1], ['id' => 'b2', 'kind' => 'colour', 'saturation' => 0.5]], 'areas' => [self::part('face', 'Face', 'face', [0.9, 0.5], 0.3, ['touches' => $two])]]);
        $treatment = Treatment::of($source, new Motions($source, []), ['face'], true, false, only: ['t9', 'b1']);
        $carried = self::carried($treatment, Documents::read(), self::found())->recipe;
        self::assertSame([['Face' => ['colour']], ['exposure']], [self::done($carried), array_map(static fn($t): string => $t->kind->name(), $carried->base)]);
    }
}
