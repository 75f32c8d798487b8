<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Render;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Touch\Blur;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Exposure;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

final class FrameRendererTest extends TestCase
{
    /** @var list<int> how many pixels were shown to what counts */
    public static array $shown = [];

    public static function frame(Layout $layout = Layout::Yuv): Frame
    {
        $format = new FrameFormat(160, 90, $layout, fullRange: $layout === Layout::Rgb);
        $random = Chance::seeded(4);
        $codes = [];
        for ($i = 0; $i < 160 * 90 * 3; ++$i) {
            $codes[] = $layout === Layout::Rgb ? $random->whole(0, 65535) : ($i < 160 * 90 ? $random->whole(3000, 61000) : $random->whole(30000, 36000));
        }

        return new Frame($format, pack('v*', ...$codes));
    }

    /** @param array<string, mixed> $changes */
    private static function renderer(array $changes): FrameRenderer
    {
        $recipe = Documents::read($changes);

        return new FrameRenderer($recipe, new Motions($recipe, []));
    }

    public function test_a_recipe_that_changes_nothing_gives_the_very_bytes_back(): void
    {
        $neutral = [['id' => 'n1', 'kind' => 'exposure'], ['id' => 'n2', 'kind' => 'tone', 'pivot' => 0.7], ['id' => 'n3', 'kind' => 'colour'], ['id' => 'n4', 'kind' => 'exposure', 'stops' => 2, 'on' => false], ['id' => 'n5', 'kind' => 'exposure', 'stops' => 2, 'amount' => 0]];
        $off = Documents::area(['on' => false]);
        $asleep = Documents::area(['id' => 'a2', 'live' => ['from' => 40, 'to' => 50]]);
        $asleep['outline']['shapes'][0]['id'] = 's2';
        $asleep['touches'][0]['id'] = 't2';
        foreach ([Layout::Yuv, Layout::Rgb] as $layout) {
            $frame = self::frame($layout);
            self::assertSame($frame->bytes, self::renderer(['base' => $neutral, 'areas' => [$off, $asleep]])->frame($frame, 3));
        }
    }

    public function test_what_leaves_most_of_a_frame_as_it_is_gives_the_same_as_if_all_were_computed(): void
    {
        $finish = [['id' => 'l', 'kind' => 'legal', 'standard' => 'r103', 'knee' => 0.02]];
        $format = new FrameFormat(400, 90);
        $chance = Chance::seeded(5);
        $luma = array_map(static fn(int $i): int => $i % 400 < 100 && $i > 12000 ? $chance->whole(3000, 63000) : $chance->whole(20000, 40000), range(0, 35999));
        $chroma = array_map(static fn(): int => $chance->whole(32000, 33500), range(1, 72000));
        $frame = new Frame($format, pack('v*', ...$luma, ...$chroma));
        foreach ([[], [Documents::area()], [Documents::area(['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1, 'side' => 'outside']]])]] as $k => $areas) {
            $renderer = self::renderer(['areas' => $areas, 'finish' => $finish]);
            $touched = array_sum(array_map(static fn(Rect $r): int => $r->count(), $renderer->touched($frame, 0)));
            self::assertSame($k < 2, $touched < 0.8 * 36000);
            self::assertGreaterThan(0, $touched);
            self::assertSame($frame->patched($renderer->bands($frame, 0, $format->rect())), $renderer->frame($frame, 0));
        }
    }

    public function test_one_renderer_serves_any_frame(): void
    {
        $area = Documents::area(['touches' => [['id' => 't', 'kind' => 'match', 'light' => 1, 'targetL' => ['value' => 0.2, 'keys' => [['frame' => 0, 'value' => 0.2], ['frame' => 9, 'value' => 0.8]]]]]]);
        $frame = self::frame();
        $light = new Frame($frame->format, self::renderer(['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5]]])->frame($frame, 0));
        $renderer = self::renderer(['areas' => [$area]]);
        foreach ([[$frame, 0], [$frame, 9], [$light, 9], [$frame, 9]] as [$of, $number]) {
            self::assertSame(self::renderer(['areas' => [$area]])->frame($of, $number), $renderer->frame($of, $number));
        }
    }

    public function test_pixels_outside_the_matte_are_identical_and_inside_they_are_twice_as_light(): void
    {
        $frame = self::frame();
        $renderer = self::renderer(['areas' => [Documents::area()]]);
        $treated = new Frame($frame->format, $renderer->frame($frame, 0));
        $recipe = Documents::read(['areas' => [Documents::area()]]);
        $all = $frame->format->rect();
        $matte = $renderer->matte($frame, $recipe->areas[0], 0, $all);
        $before = $frame->window($all);
        $after = $treated->window($all);
        $inside = 0;
        for ($i = 0; $i < 160 * 90; ++$i) {
            if ($matte->v[$i] === 0.0) {
                self::assertSame([$before->r[$i], $before->g[$i], $before->b[$i]], [$after->r[$i], $after->g[$i], $after->b[$i]]);
            } elseif ($matte->v[$i] === 1.0 && $before->g[$i] > 0.05 && $before->g[$i] < 0.7 && $before->r[$i] < 0.7 && $before->b[$i] < 0.7) {
                ++$inside;
                self::assertEqualsWithDelta(2.0, ($after->g[$i] / $before->g[$i]) ** 2.4, 0.01);
            }
        }
        self::assertGreaterThan(300, $inside);
    }

    public function test_a_window_shows_the_same_as_the_whole(): void
    {
        $frame = self::frame();
        $area = Documents::area(['touches' => [['id' => 't1', 'kind' => 'tone', 'gamma' => 1.3], ['id' => 't2', 'kind' => 'exposure', 'stops' => -0.5, 'side' => 'outside'], ['id' => 't3', 'kind' => 'colour', 'temperature' => 20]]]);
        $renderer = self::renderer(['base' => [['id' => 'b1', 'kind' => 'colour', 'saturation' => 1.3]], 'areas' => [$area]]);
        $whole = new Frame($frame->format, $renderer->frame($frame, 0));
        foreach ([Rect::of(0, 0, 160, 90), Rect::of(70, 20, 31, 60), Rect::of(0, 50, 9, 3)] as $rect) {
            $y = $rect->y;
            $patched = $frame->patched($renderer->bands($frame, 0, $rect));
            $window = new Frame($frame->format, $patched);
            self::assertSame(self::codes($whole, $rect), self::codes($window, $rect), "from row {$y}");
        }
    }

    public function test_it_agrees_with_a_naive_pixel_by_pixel_reading_of_the_rules(): void
    {
        $frame = self::frame();
        $area = Documents::area(['strength' => 0.8, 'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1.2], ['id' => 't2', 'kind' => 'exposure', 'stops' => -0.6, 'side' => 'outside', 'amount' => 0.5], ['id' => 't3', 'kind' => 'colour', 'saturation' => 0.4]]]);
        $changes = ['base' => [['id' => 'b1', 'kind' => 'exposure', 'stops' => 0.3]], 'areas' => [$area], 'finish' => [['id' => 'f1', 'kind' => 'colour', 'saturation' => 1.1]]];
        $renderer = self::renderer($changes);
        $all = $frame->format->rect();
        $matte = $renderer->matte($frame, Documents::read($changes)->areas[0], 0, $all);
        $source = $frame->window($all);
        $saturate = static function (array $rgb, float $s, float $w): array {
            $luma = 0.2126 * $rgb[0] + 0.7152 * $rgb[1] + 0.0722 * $rgb[2];

            return array_map(static fn(float $c): float => $c + ($luma + $s * ($c - $luma) - $c) * $w, $rgb);
        };
        $expose = static fn(array $rgb, float $stops, float $w): array => array_map(static fn(float $c): float => $c + ($c * 2 ** ($stops / 2.4) - $c) * $w, $rgb);
        $i = 0;
        foreach ($renderer->bands($frame, 0, $all) as $band) {
            for ($k = 0; $k < $band->rect->count(); ++$k, ++$i) {
                $m = $matte->v[$i];
                $rgb = $expose([$source->r[$i], $source->g[$i], $source->b[$i]], 0.3, 1);
                $rgb = $expose($rgb, 1.2, $m * 0.8);
                $rgb = $expose($rgb, -0.6, (1 - $m) * 0.8 * 0.5);
                $rgb = $saturate($rgb, 0.4, $m * 0.8);
                $rgb = $saturate($rgb, 1.1, 1);
                self::assertEqualsWithDelta($rgb, [$band->r[$k], $band->g[$k], $band->b[$k]], 1e-9);
            }
        }
        self::assertSame(160 * 90, $i);
    }

    public function test_only_what_an_area_reaches_is_rendered(): void
    {
        $frame = Rect::of(0, 0, 160, 90);
        $touched = self::renderer(['areas' => [Documents::area()]])->touched(self::frame(), 0);
        self::assertCount(1, $touched);
        self::assertLessThan(0.45 * $frame->count(), $touched[0]->count());
        self::assertTrue(self::renderer(['areas' => [Documents::area(['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1, 'side' => 'outside']]])]])->touched(self::frame(), 0)[0]->equals($frame));
        self::assertSame([], self::renderer([])->touched(self::frame(), 0));
    }

    /** @return list<string> the stored bytes of a rectangle, row by row */
    private static function codes(Frame $frame, Rect $rect): array
    {
        $rows = [];
        foreach ([0, 1, 2] as $plane) {
            for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
                $rows[] = substr($frame->bytes, 2 * (($plane * 90 + $y) * 160 + $rect->x), 2 * $rect->width);
            }
        }

        return $rows;
    }

    public function test_the_blink_guard_takes_the_inside_away_while_the_lids_are_closed_and_leaves_the_outside(): void
    {
        $sha = str_repeat('cd', 32);
        $area = Documents::area(['motion' => ['by' => 'follow', 'model' => 'iris', 'track' => ['sha256' => $sha]], 'blinkGuard' => ['on' => true]]);
        $track = Track::of(0, Model::Iris, [0 => new Step(Matrix::identity(), State::Set, 1.0, null, 1.0), 1 => new Step(Matrix::identity(), State::Bridged, 0.0, null, 0.0)]);
        $render = static function (array $touches) use ($area, $sha, $track): array {
            $recipe = Documents::read(['areas' => [[...$area, 'touches' => $touches]]]);
            $renderer = new FrameRenderer($recipe, new Motions($recipe, [$sha => $track]));

            return [$renderer->frame(self::frame(), 0), $renderer->frame(self::frame(), 1)];
        };
        $inside = ['id' => 't1', 'kind' => 'exposure', 'stops' => 1];
        $outside = ['id' => 't2', 'kind' => 'exposure', 'side' => 'outside', 'stops' => -1];
        [$open, $closed] = $render([$inside]);
        self::assertNotSame(self::frame()->bytes, $open);
        self::assertSame(self::frame()->bytes, $closed);
        self::assertSame($render([$outside])[1], $render([$inside, $outside])[1]);
        self::assertNotSame(self::frame()->bytes, $render([$outside])[1]);
    }

    public function test_another_areas_matte_can_be_kept_in_and_cut_out(): void
    {
        $lids = ['id' => 'lids', 'name' => 'Lids', 'outline' => ['at' => 0, 'shapes' => [['id' => 'l1', 'kind' => 'box', 'centre' => [0.9, 0.5], 'radii' => [0.3, 0.1]]]], 'live' => ['from' => 0, 'to' => 83]];
        $iris = static fn(string $join): array => ['id' => 'iris', 'name' => 'Iris', 'outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.2]], ['id' => 's2', 'kind' => 'area', 'of' => 'lids', 'join' => $join]]], 'live' => ['from' => 0, 'to' => 83]];
        $all = Rect::of(0, 0, 160, 90);
        $mattes = [];
        foreach (['keep', 'cut'] as $join) {
            $recipe = Documents::read(['areas' => [$lids, $iris($join)]]);
            $renderer = new FrameRenderer($recipe, new Motions($recipe, []));
            [$lid, $mattes[$join]] = array_map(static fn($area): array => $renderer->matte(self::frame(), $area, 0, $all)->v, $recipe->areas);
        }
        $circle = self::renderer(['areas' => [Documents::area()]]);
        $recipe = Documents::read(['areas' => [[...$iris('keep'), 'outline' => ['at' => 0, 'shapes' => [$iris('keep')['outline']['shapes'][0]]]]]]);
        foreach ($circle->matte(self::frame(), $recipe->areas[0], 0, $all)->v as $i => $v) {
            self::assertEqualsWithDelta($v * $lid[$i], $mattes['keep'][$i], 1e-12);
            self::assertEqualsWithDelta($v * (1 - $lid[$i]), $mattes['cut'][$i], 1e-12);
        }
        self::assertGreaterThan(50, array_sum($mattes['keep']));
    }

    public function test_looking_at_neighbours_gives_the_same_in_bands_and_pieces_as_at_once(): void
    {
        $frame = self::frame();
        $touches = [['id' => 't1', 'kind' => 'blur', 'radius' => 0.03], ['id' => 't2', 'kind' => 'even', 'tone' => 1], ['id' => 't3', 'kind' => 'sharpen', 'strength' => 1], ['id' => 't4', 'kind' => 'blur', 'side' => 'outside', 'radius' => 0.02]];
        $pick = ['light' => [0.3, 0.7, 0.2], 'blur' => 0.01, 'clean' => ['specks' => 0.03, 'holes' => 0.02], 'follow' => 0.5];
        // One that has measured nothing yet each time.
        $renderer = static fn(): FrameRenderer => self::renderer(['base' => [['id' => 'b1', 'kind' => 'glow', 'intensity' => 0.5]], 'areas' => [Documents::area(['touches' => $touches, 'pick' => $pick])], 'finish' => [['id' => 'f1', 'kind' => 'blur', 'radius' => 0.01]]]);
        $all = $frame->format->rect();
        $whole = iterator_to_array($renderer()->bands($frame, 0, $all))[0];
        self::assertTrue($whole->rect->equals($all));
        foreach ([Rect::of(60, 30, 40, 25), Rect::of(0, 0, 12, 90), Rect::of(150, 80, 10, 10)] as $piece) {
            foreach ($renderer()->bands($frame, 0, $piece) as $band) {
                for ($y = $band->rect->y; $y < $band->rect->bottom(); ++$y) {
                    for ($x = $band->rect->x; $x < $band->rect->right(); ++$x) {
                        foreach ($band->at($x, $y) as $c => $v) {
                            self::assertEqualsWithDelta($whole->at($x, $y)[$c], $v, 1e-9, "{$x} {$y}");
                        }
                    }
                }
            }
        }
    }

    public function test_a_linked_area_does_what_the_other_one_does(): void
    {
        $frame = self::frame();
        $left = Documents::area(['id' => 'l']);
        $right = Documents::area(['id' => 'r', 'touches' => []]);
        $right['outline']['shapes'][0] = [...$right['outline']['shapes'][0], 'id' => 's2', 'centre' => [0.3, 0.4]];
        $alone = self::renderer(['areas' => [$left, [...$right, 'touches' => [[...$left['touches'][0], 'id' => 't9']]]]])->frame($frame, 0);
        self::assertSame($alone, self::renderer(['areas' => [$left, [...$right, 'pair' => ['with' => 'l', 'linked' => true]]]])->frame($frame, 0));
        self::assertNotSame($alone, self::renderer(['areas' => [$left, [...$right, 'pair' => ['with' => 'l', 'linked' => false]]]])->frame($frame, 0));
    }

    public function test_a_pick_reads_the_picture_as_it_enters_its_area(): void
    {
        // Dark and light halves; the base makes the dark one lighter, and the pick takes what is light then.
        $format = new FrameFormat(160, 90, Layout::Rgb, fullRange: true);
        $plane = str_repeat(str_repeat(pack('v', 16000), 80) . str_repeat(pack('v', 48000), 80), 90);
        $frame = new Frame($format, $plane . $plane . $plane);
        $area = Documents::area(['pick' => ['light' => [0.6, 1.5, 0.05]]]);
        $matte = static function (array $base) use ($frame, $area): float {
            $recipe = Documents::read(['base' => $base, 'areas' => [$area]]);

            return array_sum((new FrameRenderer($recipe, new Motions($recipe, [])))->matte($frame, $recipe->areas[0], 0, Rect::of(0, 0, 80, 90))->v);
        };
        self::assertSame(0.0, $matte([]));
        self::assertGreaterThan(100.0, $matte([['id' => 'b1', 'kind' => 'exposure', 'stops' => 3]]));
    }

    /**
     * Touches that measure their area, on a face with a spot in it.
     *
     * @return array<string, mixed>
     */
    private static function measured(): array
    {
        $spot = Documents::area(['id' => 'spot', 'touches' => [['id' => 't7', 'kind' => 'conceal', 'offsetX' => 0.2, 'limit' => 0.5], ['id' => 't8', 'kind' => 'grain', 'level' => 2]]]);
        $spot['outline']['shapes'][0] = [...$spot['outline']['shapes'][0], 'id' => 's2', 'centre' => [0.8, 0.55], 'radii' => [0.05, 0.06]];
        $touches = [['id' => 't1', 'kind' => 'even', 'tone' => 1, 'pores' => 0.5, 'shine' => 0.4], ['id' => 't2', 'kind' => 'match', 'light' => 0.5, 'colour' => 0.5], ['id' => 't3', 'kind' => 'iris', 'strength' => 0.7, 'ring' => 0.5], ['id' => 't4', 'kind' => 'grain', 'level' => 1.5]];
        $pick = ['light' => [0.2, 0.8, 0.2], 'blur' => 0.01, 'follow' => 0.5];

        return ['base' => [['id' => 'b1', 'kind' => 'blur', 'radius' => 0.01]], 'areas' => [Documents::area(['touches' => $touches, 'pick' => $pick]), $spot], 'finish' => [['id' => 'f1', 'kind' => 'legal']]];
    }

    public function test_an_area_too_large_to_be_held_is_measured_in_bands_with_the_same_result(): void
    {
        $frame = self::frame();
        $recipe = Documents::read(self::measured());
        $motions = new Motions($recipe, []);
        $all = $frame->format->rect();
        $whole = iterator_to_array((new FrameRenderer($recipe, $motions))->bands($frame, 0, $all))[0];
        $matte = (new FrameRenderer($recipe, $motions))->matte($frame, $recipe->areas[0], 0, $all)->v;
        // The area is of some four thousand pixels, the spot's surroundings of some five hundred.
        foreach ([6000, 1500, 200] as $pixels) {
            $pieces = Planes::joined($all, (new FrameRenderer($recipe, $motions, pixels: $pixels))->bands($frame, 0, $all));
            foreach (['r', 'g', 'b'] as $channel) {
                self::assertEqualsWithDelta($whole->{$channel}, $pieces->{$channel}, 1e-9);
            }
            self::assertEqualsWithDelta($matte, (new FrameRenderer($recipe, $motions, pixels: $pixels))->matte($frame, $recipe->areas[0], 0, $all)->v, 1e-9);
        }
    }

    public function test_an_area_is_measured_once_however_many_pieces_a_frame_is_computed_in(): void
    {
        $kind = new class implements InArea, Kind {
            public function name(): string
            {
                return 'counted';
            }

            public function parameters(): array
            {
                return [];
            }

            public function isNeutral(array $values): bool
            {
                return false;
            }

            public function prepare(array $values, Site $site): Survey
            {
                return new class ($site->bounds()) implements Survey {
                    public function __construct(private readonly Rect $bounds) {}

                    public function sees(): Rect
                    {
                        return $this->bounds;
                    }

                    public function block(): int
                    {
                        return 3;
                    }

                    public function needs(Rect $rect): Rect
                    {
                        return $rect;
                    }

                    public function effect(AreaPicture $picture): Effect
                    {
                        FrameRendererTest::$shown[] = $picture->blocks->rect->count();

                        return (new Exposure())->prepare(['stops' => 1.0], new Site(0, FrameRendererTest::frame()));
                    }
                };
            }
        };
        $area = Documents::area(['touches' => [['id' => 't1', 'kind' => 'counted'], ['id' => 't2', 'kind' => 'blur', 'radius' => 0.02]]]);
        $small = $area;
        $small['id'] = 'small';
        $small['touches'] = [['id' => 't3', 'kind' => 'counted']];
        $small['outline']['shapes'][0] = [...$small['outline']['shapes'][0], 'id' => 's2', 'centre' => [0.2, 0.2], 'radii' => [0.05, 0.05]];
        $recipe = (new RecipeReader(new Kinds($kind, new Blur(), new Legal())))->read(Documents::recipe(['areas' => [$area, $small], 'finish' => [['id' => 'f1', 'kind' => 'legal']]]));
        foreach ([1_000_000, 3000, 400] as $pixels) {
            self::$shown = [];
            (new FrameRenderer($recipe, new Motions($recipe, []), pixels: $pixels))->frame(self::frame(), 0);
            self::assertCount(2, self::$shown, "in pieces of {$pixels}");
        }
    }

    #[Group('slow')]
    public function test_a_close_up_of_four_thousand_pixels_takes_bounded_memory(): void
    {
        $row = '';
        $random = Chance::seeded(2);
        for ($x = 0; $x < 3840; ++$x) {
            $row .= pack('v', 33000 + $random->whole(-900, 900));
        }
        $count = 3840 * 2160;
        $frame = new Frame(new FrameFormat(3840, 2160), str_repeat($row, 2160) . str_repeat(pack('v', 31000), $count) . str_repeat(pack('v', 36000), $count));
        $face = Documents::area(['touches' => [['id' => 't1', 'kind' => 'even', 'tone' => 0.7, 'pores' => 0.3], ['id' => 't3', 'kind' => 'grain', 'level' => 1]]]);
        $face['outline']['shapes'][0]['radii'] = [0.33, 0.4];
        $renderer = self::renderer(['areas' => [$face], 'finish' => [['id' => 'f1', 'kind' => 'legal']]]);
        $before = memory_get_usage();
        memory_reset_peak_usage();
        $rendered = $renderer->frame($frame, 0);
        // The frame's own bytes are 50 MB; whole planes of it would be 400.
        self::assertLessThan(512 << 20, memory_get_peak_usage() - $before);
        self::assertNotSame($frame->bytes, $rendered);
    }

    public function test_the_finish_comes_after_the_areas(): void
    {
        $changes = ['areas' => [Documents::area(['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 5]]])], 'finish' => [['id' => 'f1', 'kind' => 'legal']]];
        $frame = self::frame();
        $most = 0.0;
        foreach (self::renderer($changes)->bands($frame, 0, $frame->format->rect()) as $band) {
            $most = max($most, ...$band->r, ...$band->g, ...$band->b);
        }
        // What was lifted by five stops is held below the limit, with what luma is shifted by.
        self::assertLessThan(1.1, $most);
    }
}
