<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Carry;

use Cossel\Core\Carry\Alike;
use Cossel\Core\Carry\AreaTones;
use Cossel\Core\Carry\Given;
use Cossel\Core\Carry\Matching;
use Cossel\Core\Carry\Tones;
use Cossel\Core\Carry\TrimFit;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Colour\WhitePoint;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Tests\PaintedFrame;
use Cossel\Core\Touch\Trim;
use PHPUnit\Framework\TestCase;

/** A shot is brought to look as another: light, white and saturation changed by known amounts are found again. */
final class MatchingTest extends TestCase
{
    /**
     * Skin lit from the left before a wall.
     *
     * @param callable(array{float, float, float}): array{float, float, float} $light what befalls the R'G'B' of the scene
     */
    private static function scene(callable $light): Frame
    {
        $chance = Chance::seeded(4);

        return PaintedFrame::of(static function (float $x, float $y) use ($light, $chance): array {
            $isSkin = hypot(($x - 0.9) / 0.25, ($y - 0.5) / 0.32) < 1;
            $noise = $chance->between(-0.012, 0.012);
            $shade = $isSkin ? 1.1 - 0.5 * ($x - 0.65) : 1.0;
            $base = $isSkin ? [0.55, 0.42, 0.35] : [0.3, 0.33, 0.36];

            return $light(array_map(static fn(float $v): float => $v * $shade + $noise, $base));
        });
    }

    /** @return callable(array{float, float, float}): array{float, float, float} */
    private static function light(float $stops, float $mired, float $saturation): callable
    {
        $m = WhitePoint::change($mired, 0);

        return static function (array $rgb) use ($stops, $m, $saturation): array {
            [$r, $g, $b] = array_map(static fn(float $v): float => 2 ** $stops * Transfer::Bt1886->linear($v), $rgb);
            $out = [];
            foreach ([0, 3, 6] as $i) {
                $out[] = Transfer::Bt1886->code($m[$i] * $r + $m[$i + 1] * $g + $m[$i + 2] * $b);
            }
            $luma = Luma::at(...$out);

            return array_map(static fn(float $v): float => $luma + $saturation * ($v - $luma), $out);
        };
    }

    /** @param list<array<string, mixed>> $touches */
    private static function recipe(array $touches): Recipe
    {
        return Documents::read(['areas' => [Documents::area([
            'part' => 'face',
            'outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.22, 0.28], 'featherIn' => 0.05]]],
            'touches' => $touches,
        ])]]);
    }

    /** @param array<int, Frame> $frames */
    private static function tones(Recipe $recipe, array $frames): Tones
    {
        return (new AreaTones($recipe, new Motions($recipe, []), $frames))->of($recipe->areas[0]) ?? throw new \LogicException('The face is not seen.');
    }

    /** @return iterable<string, array{float, float, float}> */
    public static function lights(): iterable
    {
        yield 'a stop darker' => [-1.0, 0.0, 1.0];
        yield 'warmer by 400 K at 6500' => [0.0, 10.1, 1.0];
        yield 'less saturated' => [0.0, 0.0, 0.8];
        yield 'all of it' => [0.7, -12.0, 0.85];
    }

    #[\PHPUnit\Framework\Attributes\DataProvider('lights')]
    public function test_a_known_change_of_light_is_found_again(float $stops, float $mired, float $saturation): void
    {
        $touches = [
            ['id' => 't1', 'kind' => 'exposure', 'stops' => 0.6],
            ['id' => 't2', 'kind' => 'even', 'tone' => 0.5],
            ['id' => 't3', 'kind' => 'colour', 'saturation' => 1.1],
        ];
        $recipe = self::recipe($touches);
        $wanted = self::tones($recipe, [0 => self::scene(self::light(0.0, 0.0, 1.0))]);
        $there = [0 => self::scene(self::light($stops, $mired, $saturation)), 40 => self::scene(self::light($stops, $mired, $saturation))];
        $before = self::tones($recipe, $there)->apart($wanted);
        $matched = (new Matching(new Motions($recipe, []), $there, static fn(string $letter): string => "{$letter}9"))->matched($recipe, ['face' => $wanted]);
        self::assertGreaterThan(1.2, $before);
        self::assertEqualsWithDelta($before, $matched->misses['face'][0], 1e-9);
        self::assertLessThan(0.5, $matched->misses['face'][1]);
        self::assertEqualsWithDelta(self::tones($matched->recipe, $there)->apart($wanted), $matched->misses['face'][1], 1e-9);
        $trim = $matched->recipe->areas[0]->touches[0];
        self::assertSame(['trim', 't9', 4], [$trim->kind->name(), $trim->id, count($matched->recipe->areas[0]->touches)]);
        self::assertEqualsWithDelta(-$stops, $trim->values(0)['stops'], 0.12);
        // Its lights and its shadows are met as well; warmth and saturation of skin alone are nearly one thing.
        self::assertEqualsWithDelta($wanted->numbers(), self::tones($matched->recipe, $there)->numbers(), 0.008);
    }

    #[\PHPUnit\Framework\Attributes\DataProvider('lights')]
    public function test_the_base_alone_brings_a_known_change_of_light_back(float $stops, float $mired, float $saturation): void
    {
        $recipe = self::recipe([['id' => 't1', 'kind' => 'exposure', 'stops' => 0.6], ['id' => 't2', 'kind' => 'even', 'tone' => 0.5]]);
        $wanted = self::tones($recipe, [0 => self::scene(self::light(0.0, 0.0, 1.0))]);
        $there = [0 => self::scene(self::light($stops, $mired, $saturation))];
        $matching = new Matching(new Motions($recipe, []), $there, static fn(string $letter): string => "{$letter}9");
        $matched = $matching->base($recipe, 'face', $wanted);
        self::assertLessThan(0.5, $matched->misses['face'][1]);
        self::assertSame([['t9'], ['t1', 't2']], [array_column($matched->recipe->base, 'id'), array_column($matched->recipe->areas[0]->touches, 'id')]);
        self::assertEqualsWithDelta(-$stops, $matched->recipe->base[0]->values(0)['stops'], 0.12);
        // What is beside the face came back with it.
        $wall = static fn(Recipe $by, Frame $frame): array => [...(new FrameRenderer($by, new Motions($by, [])))->bands($frame, 0, Rect::of(2, 2, 4, 4))][0]->g;
        self::assertEqualsWithDelta(array_sum($wall($recipe, self::scene(self::light(0.0, 0.0, 1.0)))) / 16, array_sum($wall($matched->recipe, $there[0])) / 16, 0.02);
    }

    public function test_a_trim_of_the_base_is_given_the_footage_itself(): void
    {
        $plain = self::recipe([]);
        $bright = $plain->withBase(Documents::read(['base' => [['id' => 'b1', 'kind' => 'exposure', 'stops' => 1]]])->base);
        $frames = [0 => self::scene(self::light(0.0, 0.0, 1.0))];
        $given = static fn(Recipe $of): ?Tones => (new AreaTones($of, new Motions($of, []), $frames))->untreated($of->areas[0])->tones(Matching::neutral('t'));
        self::assertNotNull($given($plain));
        self::assertEquals($given($plain), $given($bright));
    }

    public function test_matching_again_sets_the_trim_that_is_there(): void
    {
        $recipe = self::recipe([['id' => 't1', 'kind' => 'exposure', 'stops' => 0.6]]);
        $wanted = self::tones($recipe, [0 => self::scene(self::light(0.0, 0.0, 1.0))]);
        $match = static fn(Recipe $of, float $stops): Recipe => (new Matching(new Motions($of, []), [0 => self::scene(self::light($stops, 0.0, 1.0))], static fn(string $letter): string => "{$letter}9"))->matched($of, ['face' => $wanted])->recipe;
        $once = $match($recipe, -1.0);
        $again = $match($once, 0.5);
        self::assertSame([['t9', 't1'], ['t9', 't1']], [array_column($once->areas[0]->touches, 'id'), array_column($again->areas[0]->touches, 'id')]);
        self::assertEqualsWithDelta([1.0, -0.5], [$once->areas[0]->touches[0]->values(0)['stops'], $again->areas[0]->touches[0]->values(0)['stops']], 0.12);
        // One that moves over the shot, or is off, is somebody's own and stays.
        $own = self::recipe([['id' => 't8', 'kind' => 'trim', 'stops' => 0.2, 'on' => false], ['id' => 't1', 'kind' => 'exposure', 'stops' => 0.6]]);
        self::assertSame(['t9', 't8', 't1'], array_column($match($own, -1.0)->areas[0]->touches, 'id'));
    }

    public function test_the_same_parts_of_the_same_people_are_alike_and_others_by_their_names(): void
    {
        $area = static fn(string $id, string $name, string $part, ?string $person, float $x): array => Documents::area(['id' => $id, 'name' => $name, 'part' => $part, 'person' => $person, 'touches' => [], 'motion' => ['by' => 'none', 'pivot' => [$x, 0.5]], 'outline' => ['at' => 0, 'shapes' => [['id' => "{$id}s", 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.1, 0.1]]]]]);
        $here = Documents::read(['areas' => [$area('f', 'Face', 'face', 'maren', 0.9), $area('l', 'One', 'iris', 'maren', 1.0), $area('r', 'Two', 'iris', 'maren', 0.8), $area('w', 'Window', 'other', null, 0.2), $area('t', 'Teeth', 'teeth', 'maren', 0.9)]]);
        $there = Documents::read(['areas' => [$area('x', 'Face', 'face', 'tove', 0.4), $area('s', 'Skin', 'skin', 'maren', 0.9), $area('ir', 'Right iris', 'iris', 'maren', 0.7), $area('il', 'Left iris', 'iris', 'maren', 0.95), $area('v', 'Window', 'other', null, 0.3)]]);
        self::assertSame([['f', 's'], ['l', 'il'], ['r', 'ir'], ['w', 'v']], array_map(static fn(array $pair): array => [$pair[0]->id, $pair[1]->id], Alike::pairs($here, $there)));
    }

    public function test_what_looks_right_is_left_alone(): void
    {
        $recipe = self::recipe([['id' => 't1', 'kind' => 'exposure', 'stops' => 0.6]]);
        $frames = [0 => self::scene(self::light(0.0, 0.0, 1.0))];
        $matched = (new Matching(new Motions($recipe, []), $frames, static fn(string $letter): string => "{$letter}9"))->matched($recipe, ['face' => self::tones($recipe, $frames)]);
        self::assertSame($recipe, $matched->recipe);
        self::assertEqualsWithDelta(0.0, $matched->misses['face'][1], 1e-6);
    }

    public function test_an_area_that_acts_by_half_is_moved_twice_as_far(): void
    {
        $recipe = Documents::read(['areas' => [[...Documents::area(['strength' => 0.5, 'touches' => []]), 'part' => 'face']]]);
        $there = [0 => self::scene(self::light(-0.5, 0.0, 1.0))];
        $wanted = self::tones($recipe, [0 => self::scene(self::light(0.0, 0.0, 1.0))]);
        $matched = (new Matching(new Motions($recipe, []), $there, static fn(string $letter): string => "{$letter}9"))->matched($recipe, ['face' => $wanted]);
        self::assertGreaterThan(0.75, $matched->recipe->areas[0]->touches[0]->values(0)['stops']);
        self::assertLessThan(0.6, $matched->misses['face'][1]);
    }

    public function test_tones_are_the_means_of_the_area_and_of_its_halves(): void
    {
        $frame = PaintedFrame::of(static fn(float $x): array => $x < 0.8 ? [0.2, 0.2, 0.2] : ($x < 1.2 ? [0.4, 0.3, 0.25] : [0.7, 0.6, 0.5]));
        $rect = $frame->format->rect();
        $matte = Grey::filled($rect, 0.0);
        for ($y = 10; $y < 80; ++$y) {
            for ($x = 76; $x < 140; ++$x) {
                $matte->v[$y * 160 + $x] = 1.0;
            }
        }
        $tones = Tones::of(LabPlanes::of($frame->window($rect), $rect, Transfer::Bt1886), $matte);
        self::assertNotNull($tones);
        $lab = static fn(array $rgb): array => \Cossel\Core\Colour\Oklab::fromLinear(...array_map(Transfer::Bt1886->linear(...), $rgb));
        self::assertEqualsWithDelta($lab([0.4, 0.3, 0.25]), $tones->shadows, 2e-3);
        self::assertEqualsWithDelta($lab([0.7, 0.6, 0.5]), $tones->lights, 2e-3);
        self::assertGreaterThan($tones->shadows[0] + 0.02, $tones->mean[0]);
        self::assertNull(Tones::of(LabPlanes::of($frame->window($rect), $rect, Transfer::Bt1886), Grey::filled($rect, 0.4)));
        self::assertEqualsWithDelta(0.0, Tones::mean([$tones, $tones])->apart($tones), 1e-9);
    }

    public function test_frames_on_which_something_hides_an_area_do_not_count_where_there_are_others(): void
    {
        $follow = ['by' => 'follow', 'start' => 0, 'span' => [0, 20], 'model' => 'similarity', 'track' => ['sha256' => str_repeat('cd', 32)]];
        $face = Documents::area(['part' => 'face', 'touches' => [], 'motion' => $follow]);
        $spot = Documents::area(['id' => 'spot', 'touches' => [], 'motion' => ['by' => 'ride', 'on' => 'face'], 'outline' => ['at' => 0, 'shapes' => [['id' => 's2', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.1, 0.1]]]]]);
        $recipe = Documents::read(['areas' => [$face, $spot]]);
        $step = static fn(State $state): Step => new Step(Matrix::identity(), $state, 1.0);
        $states = static fn(State $second): array => array_map(static fn(int $frame): Step => $step($frame === 10 ? $second : State::Followed), range(0, 20));
        $scenes = [0 => self::scene(self::light(0.0, 0.0, 1.0)), 10 => self::scene(self::light(-2.0, 0.0, 1.0))];
        $light = static function (State $second, array $frames, int $area) use ($recipe, $states): float {
            $motions = new Motions($recipe, [str_repeat('cd', 32) => Track::of(0, Model::Similarity, $states($second))]);

            return (new AreaTones($recipe, $motions, $frames))->of($recipe->areas[$area])->mean[0] ?? throw new \LogicException('It is not seen.');
        };
        foreach ([0, 1] as $area) {
            $plain = $light(State::Followed, [0 => $scenes[0]], $area);
            self::assertEqualsWithDelta($plain, $light(State::Bridged, $scenes, $area), 1e-9);
            self::assertLessThan($plain - 0.05, $light(State::Followed, $scenes, $area));
            self::assertLessThan($plain - 0.1, $light(State::Bridged, [10 => $scenes[10]], $area));
        }
    }

    public function test_a_trim_is_held_where_the_pixels_do_not_tell(): void
    {
        // A grey surface says nothing of saturation.
        $frame = PaintedFrame::of(static fn(float $x): array => array_fill(0, 3, 0.3 + 0.2 * $x));
        $rect = $frame->format->rect();
        $given = Given::none()->with($frame->window($rect), Grey::filled($rect, 1.0), $frame);
        $neutral = new Touch('t', new Trim(), ['stops' => new Keyed(0.0), 'temperature' => new Keyed(0.0), 'tint' => new Keyed(0.0), 'saturation' => new Keyed(1.0)]);
        $now = $given->tones($neutral);
        self::assertNotNull($now);
        $wanted = $given->tones(new Touch('t', new Trim(), ['stops' => new Keyed(0.4), ...$neutral->settings, ...['stops' => new Keyed(0.4)]]));
        self::assertNotNull($wanted);
        $fit = TrimFit::least($given, $wanted, $neutral);
        self::assertNotNull($fit);
        $values = $fit->values(0);
        self::assertEqualsWithDelta([0.4, 0.0, 0.0, 1.0], [$values['stops'], $values['temperature'], $values['tint'], $values['saturation']], 0.02);
        self::assertNull(TrimFit::least(Given::none(), $wanted, $neutral));
    }
}
