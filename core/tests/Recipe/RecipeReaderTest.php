<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Recipe;

use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ease;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Key;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class RecipeReaderTest extends TestCase
{
    /** @return array<string, mixed> a document that uses everything there is */
    private static function full(): array
    {
        return Documents::recipe([
            'assets' => ['warm' => ['sha256' => str_repeat('0', 64), 'kind' => 'cube']],
            'base' => [['id' => 'b1', 'kind' => 'exposure', 'stops' => ['value' => 0.3, 'keys' => [['frame' => 3, 'value' => 1, 'ease' => 'hold'], ['frame' => 9, 'value' => -1]]]]],
            'areas' => [
                Documents::area([
                    'person' => 'dario',
                    'part' => 'face',
                    'motion' => ['by' => 'follow', 'start' => 4, 'span' => [0, 83], 'model' => 'position', 'look' => ['by' => 'outline', 'margin' => 0.02], 'use' => ['position'], 'pivot' => [0.9, 0.5], 'track' => ['sha256' => str_repeat('1', 64)], 'keys' => [['frame' => 6, 'move' => [0.1, 0], 'turn' => 3, 'scale' => 1.1]]],
                    'strength' => ['value' => 1, 'keys' => []],
                    'blinkGuard' => ['on' => false, 'keys' => []],
                    'pick' => null,
                    'pair' => null,
                ]),
                ['id' => 'lips', 'name' => 'Lips', 'outline' => ['at' => 2, 'shapes' => [
                    ['id' => 'p1', 'kind' => 'path', 'points' => [['at' => [0.5, 0.5], 'out' => [0.1, 0]], ['at' => [0.75, 0.5], 'in' => [0, 0.125]], ['at' => [0.625, 0.75]]], 'keys' => [
                        ['frame' => 2, 'points' => [['at' => [0.5, 0.5]], ['at' => [0.75, 0.5]], ['at' => [0.625, 0.75]]], 'ease' => 'linear'],
                        ['frame' => 6, 'points' => [['at' => [0.75, 0.5], 'out' => [0.25, 0]], ['at' => [0.75, 0.5]], ['at' => [0.625, 0.25]]], 'featherIn' => 0.1],
                    ]],
                    ['id' => 'b9', 'kind' => 'box', 'join' => 'keep', 'centre' => [0.5, 0.5], 'radii' => [0.25, 0.125], 'round' => 0.5, 'motion' => ['by' => 'follow', 'start' => 2, 'span' => [0, 9], 'model' => 'affine', 'look' => ['by' => 'spots', 'spots' => [[0.5, 0.5], [0.75, 0.5]], 'radius' => 0.02], 'track' => null, 'keys' => [['frame' => 1, 'shear' => 0.25]]]],
                    ['id' => 'm1', 'kind' => 'area', 'join' => 'cut', 'of' => 'face', 'opacity' => 0.5],
                ]], 'motion' => ['by' => 'follow', 'start' => 2, 'span' => [0, 9], 'model' => 'outline', 'track' => null], 'live' => ['from' => 0, 'to' => 9], 'blinkGuard' => ['on' => true, 'keys' => [['frame' => 4, 'value' => 0.5]]]],
                ['id' => 'neck', 'name' => 'Neck', 'on' => false, 'outline' => ['at' => 3, 'invert' => true, 'shapes' => [['id' => 's9', 'kind' => 'ellipse', 'join' => 'cut', 'centre' => [0, 0], 'radii' => [1, 1], 'keys' => [['frame' => 1, 'opacity' => 0, 'centre' => [0.5, 0.25], 'ease' => 'linear']]]]], 'motion' => ['by' => 'ride', 'on' => 'face'], 'live' => ['from' => 2, 'to' => 9, 'fadeIn' => 2, 'fadeOut' => 1]],
            ],
            'finish' => [['id' => 'f1', 'kind' => 'colour', 'on' => false, 'amount' => 0.5, 'saturation' => 0.9]],
        ]);
    }

    public function test_writing_and_reading_again_gives_the_same_document(): void
    {
        $reader = new RecipeReader(Kinds::all());
        $writer = new RecipeWriter();
        $json = $writer->json($reader->read(self::full()));
        self::assertSame($json, $writer->json($reader->read(json_decode($json, true))));
        $written = json_decode($json, true);
        self::assertSame(0.1, $written['areas'][0]['motion']['keys'][0]['move'][0]);
        self::assertSame('hold', $written['base'][0]['stops']['keys'][0]['ease']);
        self::assertSame([0.5, 0.25], $written['areas'][2]['outline']['shapes'][0]['keys'][0]['centre']);
        self::assertSame([0.25, 0], $written['areas'][1]['outline']['shapes'][0]['keys'][1]['points'][0]['out']);
        self::assertSame('spots', $written['areas'][1]['outline']['shapes'][1]['motion']['look']['by']);
    }

    public function test_keyed_values_blend_as_their_ease_says(): void
    {
        $recipe = (new RecipeReader(Kinds::all()))->read(self::full());
        $stops = $recipe->base[0]->settings['stops'];
        self::assertSame([1.0, 1.0, 1.0, -1.0, -1.0], array_map($stops->at(...), [0, 3, 8, 9, 40]));
        $shape = $recipe->areas[2]->outline->shapes[0];
        self::assertSame(0.0, $shape->at(30)->opacity);
        self::assertSame([1.0, 1.0], $shape->at(30)->radii);
        self::assertSame([0.5, 0.25], $shape->at(0)->centre);
    }

    public function test_paths_blend_point_by_point_and_values_no_keyframe_sets_stay(): void
    {
        $path = (new RecipeReader(Kinds::all()))->read(self::full())->areas[1]->outline->shapes[0];
        $half = $path->at(4);
        self::assertSame([0.625, 0.5, 0.125, 0.0], [$half->points[0]->x, $half->points[0]->y, $half->points[0]->outX, $half->points[0]->outY]);
        self::assertSame([0.625, 0.5], [$half->points[2]->x, $half->points[2]->y]);
        self::assertSame([0.1, 0.1], [$path->at(0)->featherIn, $half->featherIn]);
        self::assertSame([], $half->keys);
    }

    public function test_the_blink_guard_follows_the_lids_but_keyframes_rule_between_their_ends(): void
    {
        $guard = new BlinkGuard(true, [new Key(10, 1.0), new Key(14, 0.0, Ease::Linear)]);
        self::assertSame([0.0, 1.0, 1.0], [$guard->weight(3, 0.05), $guard->weight(3, 0.9), $guard->weight(3, null)]);
        self::assertEqualsWithDelta(0.5, $guard->weight(3, 0.525), 1e-12);
        self::assertEqualsWithDelta(0.5, $guard->weight(12, 0.0), 1e-12);
        self::assertSame([1.0, 0.0, 0.0], [$guard->weight(10, 0.0), $guard->weight(14, 1.0), $guard->weight(15, 0.0)]);
        self::assertSame(1.0, (new BlinkGuard(false))->weight(3, 0.0));
    }

    public function test_a_live_span_fades_inside_its_ends(): void
    {
        $live = (new RecipeReader(Kinds::all()))->read(self::full())->areas[2]->live;
        self::assertEqualsWithDelta([0, 1 / 3, 2 / 3, 1, 1, 1, 1, 1, 1 / 2, 0], array_map($live->weight(...), [1, 2, 3, 4, 5, 6, 7, 8, 9, 10]), 1e-12);
    }

    /** @return iterable<string, array{string, mixed, string}> */
    public static function broken(): iterable
    {
        yield 'another format' => ['/cossel', 'recipe/2', 'recipe/1'];
        yield 'a sha of another length' => ['/source/sha256', 'abc', '64 hexadecimal'];
        yield 'a rate without a denominator' => ['/source/rate', '24', 'such as 24/1'];
        yield 'a span backwards' => ['/source/span/1', -1, 'whole number from 0'];
        yield 'a picture over the limit' => ['/source/size/0', 8193, '1 to 8192'];
        yield 'an unknown kind of touch' => ['/base/0/kind', 'sparkle', 'one of exposure'];
        yield 'a number as text' => ['/base/0/stops', '1', 'a number from -6 to 6'];
        yield 'a number out of range' => ['/base/0/stops', 7, 'a number from -6 to 6'];
        yield 'not a number' => ['/base/0/stops', NAN, 'a number from -6 to 6'];
        yield 'infinite' => ['/areas/0/outline/shapes/0/centre/1', INF, 'a number from -20 to 20'];
        yield 'an amount over one' => ['/base/0/amount', 1.5, 'a number from 0 to 1'];
        yield 'an unknown field' => ['/areas/0/colour', 'red', 'one of the fields'];
        yield 'an unknown shape' => ['/areas/0/outline/shapes/0/kind', 'star', 'ellipse'];
        yield 'a flat ellipse' => ['/areas/0/outline/shapes/0/radii/0', 0, 'a number from 0.0005'];
        yield 'an unknown side' => ['/areas/0/touches/0/side', 'left', 'one of inside, outside'];
        yield 'a frame that is no whole number' => ['/areas/0/outline/at', 1.5, 'whole number'];
        yield 'a live span backwards' => ['/areas/0/live/to', -4, 'whole number from 0'];
        yield 'on as a number' => ['/areas/0/on', 1, 'true or false'];
        yield 'keys out of order' => ['/base/0/stops/keys/1/frame', 3, 'a frame after 3'];
        yield 'a path of one point' => ['/areas/1/outline/shapes/0/points', [['at' => [0, 0]]], 'a list of 2 to 500'];
        yield 'a keyframe with fewer points' => ['/areas/1/outline/shapes/0/keys/1/points', [['at' => [0, 0]], ['at' => [1, 0]]], '3 points, as the path has'];
        yield 'a radius on a path' => ['/areas/1/outline/shapes/0/radii', [1, 1], 'one of the fields'];
        yield 'three spots' => ['/areas/1/outline/shapes/1/motion/look/spots', [[0, 0], [1, 0], [1, 1]], 'a list of 1 to 2'];
        yield 'the matte of nobody' => ['/areas/1/outline/shapes/2/of', 'chin', 'the id of an area'];
        yield 'an area made of itself' => ['/areas/1/outline/shapes/2/of', 'lips', 'no circle of areas made'];
        yield 'a shape that rides on nobody' => ['/areas/1/outline/shapes/1/motion', ['by' => 'ride', 'on' => 'chin'], 'the id of an area'];
        yield 'an unknown model' => ['/areas/1/motion/model', 'spline', 'one of position'];
        yield 'a guard without a switch' => ['/areas/1/blinkGuard', ['keys' => []], 'true or false'];
        yield 'the same id twice' => ['/areas/1/id', 'face', 'an id used only once'];
        yield 'the same touch id twice' => ['/areas/0/touches/0/id', 'b1', 'an id used only once'];
        yield 'a ride on nobody' => ['/areas/2/motion/on', 'chin', 'the id of an area'];
        yield 'a ride in a circle' => ['/areas/0/motion', ['by' => 'ride', 'on' => 'neck'], 'no circle'];
        yield 'areas that are no list' => ['/areas', ['face' => 1], 'a list'];
        yield 'a pick in another space' => ['/areas/0/pick', ['space' => 'hsl'], 'oklch'];
        yield 'a range of a pick that ends before it begins' => ['/areas/0/pick', ['light' => [0.6, 0.5, 0]], 'a number from 0.6'];
        yield 'a sample with neither sign' => ['/areas/0/pick', ['samples' => [['frame' => 1, 'at' => [0, 0], 'rgb' => [0, 0, 0], 'sign' => '*']]], '+, -'];
        yield 'a pair with nobody' => ['/areas/0/pair', ['with' => 'chin', 'linked' => false], 'the id of an area'];
        yield 'a pair with itself' => ['/areas/0/pair', ['with' => 'face', 'linked' => false], 'another area'];
        yield 'touches of a linked area' => ['/areas/0', [...self::full()['areas'][0], 'pair' => ['with' => 'lips', 'linked' => true]], 'no touches of its own'];
        yield 'limits before the end' => ['/finish', [['id' => 'f1', 'kind' => 'legal'], ['id' => 'f2', 'kind' => 'exposure']], 'last'];
        yield 'limits in the base' => ['/base', [['id' => 'f1', 'kind' => 'legal']], 'last'];
        yield 'an iris of the whole frame' => ['/base', [['id' => 'f1', 'kind' => 'iris']], 'whole frame'];
        yield 'skin evened outside' => ['/areas/0/touches', [['id' => 'f1', 'kind' => 'even', 'side' => 'outside']], 'inside'];
        yield 'points of a curve that go back' => ['/base', [['id' => 'f1', 'kind' => 'curves', 'luma' => [[0.5, 0.5], [0.4, 0.6]]]], 'rising'];
        yield 'a word that is none of the choices' => ['/areas/0/touches', [['id' => 'f1', 'kind' => 'iris', 'blend' => 'burn']], 'tint, overlay'];
        yield 'a look-up table that is not there' => ['/base', [['id' => 'look', 'kind' => 'lut', 'file' => 'cold']], 'asset of kind cube'];
    }

    #[DataProvider('broken')]
    public function test_what_is_wrong_is_said_with_its_place(string $pointer, mixed $value, string $expected): void
    {
        $document = self::full();
        $place = &$document;
        foreach (explode('/', substr($pointer, 1)) as $step) {
            $place = &$place[$step];
        }
        $place = $value;
        try {
            (new RecipeReader(Kinds::all()))->read($document);
            self::fail('It was taken.');
        } catch (InvalidRecipe $e) {
            self::assertStringStartsWith($pointer, $e->pointer);
            self::assertStringContainsString($expected, $e->expected);
            self::assertNotSame('', $e->found);
        }
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function tooLarge(): iterable
    {
        $areas = static fn(int $n, callable $area): array => ['areas' => array_map(static fn(int $i): array => Documents::area(['id' => "a{$i}", ...$area($i)]), range(0, $n - 1))];
        $path = static fn(string $id, int $n): array => ['id' => $id, 'kind' => 'path', 'points' => array_map(static fn(int $k): array => ['at' => [$k / $n, 0.5]], range(1, $n))];
        yield 'touches' => [$areas(30, static fn(int $i): array => ['touches' => array_map(static fn(int $k): array => ['id' => "t{$i}-{$k}", 'kind' => 'exposure'], range(1, 80))]), 'at most 2000 shapes and touches in all'];
        yield 'points' => [$areas(2, static fn(int $i): array => ['outline' => ['at' => 0, 'shapes' => array_map(static fn(int $k): array => $path("s{$i}-{$k}", 500), range(1, 51))]]), 'at most 50000 points in all'];
        yield 'chains' => [$areas(30, static fn(int $i): array => ['touches' => [], 'outline' => ['at' => 0, 'shapes' => $i === 0 ? [] : [['id' => "s{$i}", 'kind' => 'area', 'of' => 'a' . ($i - 1)]]]]), 'at most 24 areas one behind the other'];
        yield 'rides' => [$areas(30, static fn(int $i): array => ['touches' => [], 'outline' => ['at' => 0, 'shapes' => []], 'motion' => $i === 0 ? ['by' => 'none'] : ['by' => 'ride', 'on' => 'a' . ($i - 1)]]), 'at most 24 areas one behind the other'];
    }

    /** @param array<string, mixed> $changes */
    #[DataProvider('tooLarge')]
    public function test_what_is_larger_than_can_be_rendered_is_refused(array $changes, string $expected): void
    {
        try {
            Documents::read($changes);
            self::fail('It was taken.');
        } catch (InvalidRecipe $e) {
            self::assertSame($expected, $e->expected);
        }
    }

    public function test_nothing_with_a_minus_is_nothing(): void
    {
        $stops = Documents::read(['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => -0.0]]])->base[0]->values(0)['stops'];
        self::assertSame('0', sprintf('%g', $stops));
    }

    public function test_documents_that_are_no_objects_are_refused(): void
    {
        foreach ([null, 3, 'recipe', [1, 2]] as $document) {
            try {
                (new RecipeReader(Kinds::all()))->read($document);
                self::fail('It was taken.');
            } catch (InvalidRecipe $e) {
                self::assertSame('', $e->pointer);
            }
        }
    }

    public function test_what_is_missing_is_named(): void
    {
        $document = self::full();
        unset($document['areas'][0]['outline']);
        $this->expectExceptionMessage('/areas/0/outline: expected an outline, found nothing.');
        (new RecipeReader(Kinds::all()))->read($document);
    }
}
