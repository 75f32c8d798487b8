<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Telltale;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Telltale\Cure;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;
use Cossel\Core\Telltale\Telltale;
use Cossel\Core\Telltale\Telltales;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Tests\PaintedFrame;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\TestCase;

/** Tell-tales on painted pictures whose measures can be worked out by hand. */
final class TelltalesTest extends TestCase
{
    /** @return array{float, float, float} Oklab of an R'G'B' */
    private static function lab(float $r, float $g, float $b): array
    {
        return Oklab::fromLinear(Transfer::Bt1886->linear($r), Transfer::Bt1886->linear($g), Transfer::Bt1886->linear($b));
    }

    /**
     * @param array<string, mixed>             $changes of the area
     * @param array<int, Frame>                $frames
     * @param array<string, mixed>             $more    of the recipe
     *
     * @return array<string, Finding> by tell-tale and area
     */
    private static function findings(array $changes, array $frames, array $more = [], bool $fine = false): array
    {
        $recipe = self::recipe($changes, $more);
        $inspection = new Inspection($recipe, new Motions($recipe, []));
        $looks = [];
        foreach ($frames as $number => $frame) {
            $looks[$number] = $fine ? $inspection->fine($frame, $number) : $inspection->coarse($frame, $number);
        }
        $findings = [];
        foreach (Findings::of(Findings::measures($looks, $recipe), $recipe, before: Findings::before($looks, $recipe)) as $finding) {
            $findings[trim($finding->telltale->name . ' ' . ($finding->area->id ?? ''))] = $finding;
        }

        return $findings;
    }

    /**
     * @param array<string, mixed> $changes
     * @param array<string, mixed> $more
     */
    private static function recipe(array $changes = [], array $more = []): Recipe
    {
        return Documents::read(['areas' => [Documents::area([
            'part' => 'face',
            'outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.25, 0.3], 'featherIn' => 0, 'featherOut' => 0]]],
            ...$changes,
        ])], ...$more]);
    }

    public function test_the_halo_of_a_hard_edge_on_a_flat_picture_is_its_step_over_what_can_be_seen(): void
    {
        $flat = PaintedFrame::of(static fn(): array => [0.4, 0.4, 0.4]);
        // One stop doubles light: L grows by the cube root of 2.
        $step = self::lab(0.4, 0.4, 0.4)[0] * (2 ** (1 / 3) - 1);
        $found = self::findings([], [$flat])['halo face']->measure();
        self::assertEqualsWithDelta($step / 0.012, $found, 0.1 * $step / 0.012);
        // As far apart in the picture already: not told again.
        $textured = PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, 0.4 + 0.25 * sin(70 * $x) * sin(83 * $y)));
        self::assertLessThan($found / 4, self::findings([], [$textured])['halo face']->measure());
    }

    public function test_a_wide_feather_has_no_halo_and_an_edge_that_covers_a_step_has_none(): void
    {
        $wide = ['outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.2], 'featherIn' => 0.1, 'featherOut' => 0.15]]], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 0.3]]];
        $flat = PaintedFrame::of(static fn(): array => [0.4, 0.4, 0.4]);
        $hard = ['touches' => $wide['touches']];
        self::assertLessThan(self::findings($hard, [$flat])['halo face']->measure() / 5, self::findings($wide, [$flat])['halo face']->measure());
        // A spot a stop too dark, lifted to what is round it: the step is taken away.
        $dark = PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, hypot(($x - 0.9) / 0.25, ($y - 0.5) / 0.3) < 1 ? 0.4 : 0.4 * 2 ** (1 / 2.4)));
        self::assertLessThan(0.5, self::findings([], [$dark])['halo face']->measure());
    }

    public function test_bleed_is_the_share_of_the_change_that_falls_on_other_colours(): void
    {
        // Skin inside .7 of the area, blue outside: by area, a half of it.
        $paint = static fn(float $x, float $y): array => hypot(($x - 0.9) / 0.25, ($y - 0.5) / 0.3) < sqrt(0.5) ? [0.6, 0.45, 0.35] : [0.2, 0.3, 0.6];
        $change = static fn(float $r, float $g, float $b): float => sqrt(array_sum(array_map(static fn(float $p, float $q): float => ($p - $q) ** 2, self::lab($r, $g, $b), array_map(static fn(float $v): float => $v * 2 ** (1 / 3), self::lab($r, $g, $b)))));
        [$skin, $blue] = [$change(0.6, 0.45, 0.35), $change(0.2, 0.3, 0.6)];
        self::assertEqualsWithDelta(100 * $blue / ($skin + $blue), self::findings([], [PaintedFrame::of($paint)])['bleed face']->measure(), 2.0);
        self::assertEqualsWithDelta(0.0, self::findings([], [PaintedFrame::of(static fn(): array => [0.6, 0.45, 0.35])])['bleed face']->measure(), 1e-6);
    }

    public function test_drift_is_how_far_the_thing_has_moved_under_an_area_that_stands_still(): void
    {
        $textured = static fn(float $dx): Frame => PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, 0.5 + 0.2 * sin(31 * ($x - $dx) + 7 * sin(9 * $y)) + 0.15 * cos(23 * $y + 5 * ($x - $dx))));
        $frames = array_map($textured, [0.0, 0.02, 0.04, 0.06, 0.08, 0.1]);
        $measures = self::findings([], $frames)['drift face']->measures;
        foreach ($measures as $frame => $measure) {
            self::assertEqualsWithDelta(100 * 0.02 * $frame / 0.6, $measure, 1.2, "frame {$frame}");
        }
        self::assertCount(6, $measures);
        self::assertEqualsWithDelta(0.0, max(self::findings([], array_fill(0, 4, $textured(0.0)))['drift face']->measures), 0.05);
        // Eyes and mouths change by themselves, whatever they are called.
        foreach ([['part' => 'lips'], ['part' => 'cover', 'motion' => ['by' => 'none', 'model' => 'outline']]] as $mouth) {
            $half = self::findings($mouth, $frames)['drift face']->measures;
            self::assertEqualsWithDelta(array_map(static fn(float $v): float => $v / 2, $measures), $half, 0.01);
        }
    }

    public function test_light_that_wanders_over_a_face_is_no_drift(): void
    {
        $lit = static fn(float $at): Frame => PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, 0.35 + 0.03 * sin(61 * $x + 7 * sin(9 * $y)) + 0.03 * cos(53 * $y + 5 * $x) + 0.4 * exp(-(($x - $at) ** 2 + ($y - 0.5) ** 2) / 0.03)));
        self::assertLessThan(1.5, self::findings([], array_map($lit, [0.8, 0.85, 0.9, 0.95, 1.0]))['drift face']->measure());
    }

    public function test_flicker_is_the_second_difference_that_the_treatment_adds(): void
    {
        $flat = PaintedFrame::of(static fn(): array => [0.4, 0.4, 0.4]);
        $keys = array_map(static fn(int $f): array => ['frame' => $f, 'value' => $f % 2, 'ease' => 'linear'], range(0, 4));
        $found = self::findings(['touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => ['value' => 0, 'keys' => $keys]]]], array_fill(0, 5, $flat));
        self::assertEqualsWithDelta(100 * self::lab(0.4, 0.4, 0.4)[0] * (2 ** (1 / 3) - 1), $found['flicker face']->measure(), 0.2);
        self::assertSame([1, 2, 3], array_keys($found['flicker face']->measures));
        // A steady change is none.
        $slow = [['frame' => 0, 'value' => 0, 'ease' => 'linear'], ['frame' => 4, 'value' => 0.2, 'ease' => 'linear']];
        self::assertLessThan(0.1, self::findings(['touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => ['value' => 0, 'keys' => $slow]]]], array_fill(0, 5, $flat))['flicker face']->measure());
    }

    public function test_levels_counts_what_lies_outside(): void
    {
        $bright = PaintedFrame::of(static fn(float $x): array => $x < 0.4 ? [1.08, 1.08, 1.08] : [0.5, 0.5, 0.5]);
        self::assertEqualsWithDelta(100 * 36 / 160, self::findings([], [$bright], ['areas' => []])['levels']->measure(), 1e-9);
        $legal = [['id' => 'l', 'kind' => 'legal']];
        self::assertSame(0.0, self::findings([], [$bright], ['areas' => [], 'finish' => $legal])['levels']->measure());
    }

    public function test_teeth_over_white_by_the_eyes_of_the_same_person(): void
    {
        $paint = static fn(float $x): array => $x < 0.5 ? [0.8, 0.79, 0.77] : [0.72, 0.7, 0.62];
        $areas = static fn(string $person): array => ['areas' => [
            Documents::area(['id' => 'teeth', 'part' => 'teeth', 'person' => 'ione', 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 1]]]),
            Documents::area(['id' => 'lids', 'part' => 'lids', 'person' => $person, 'outline' => ['at' => 0, 'shapes' => [['id' => 's2', 'kind' => 'ellipse', 'centre' => [0.25, 0.5], 'radii' => [0.15, 0.2]]]], 'touches' => []]),
        ]];
        $teeth = array_map(static fn(float $v): float => $v * 2 ** (1 / 3), self::lab(0.72, 0.7, 0.62));
        $expected = 100 * max($teeth[0] - self::lab(0.8, 0.79, 0.77)[0], $teeth[0] - 0.88);
        self::assertEqualsWithDelta($expected, self::findings([], [PaintedFrame::of($paint)], $areas('ione'))['over-white teeth']->measure(), 0.3);
        // Somebody else's eyes say nothing.
        self::assertEqualsWithDelta(100 * ($teeth[0] - 0.88), self::findings([], [PaintedFrame::of($paint)], $areas('wren'))['over-white teeth']->measure(), 0.3);
    }

    /** Teeth that outshine the eyes as they came: whitened gently they are over by what the whitening adds. */
    public function test_teeth_are_over_white_by_what_the_treatment_adds(): void
    {
        $paint = static fn(float $x): array => $x < 0.5 ? [0.55, 0.54, 0.53] : [0.72, 0.7, 0.62];
        $areas = static fn(float $stops): array => ['areas' => [
            Documents::area(['id' => 'teeth', 'part' => 'teeth', 'person' => 'ione', 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => $stops]]]),
            Documents::area(['id' => 'lids', 'part' => 'lids', 'person' => 'ione', 'outline' => ['at' => 0, 'shapes' => [['id' => 's2', 'kind' => 'ellipse', 'centre' => [0.25, 0.5], 'radii' => [0.15, 0.2]]]], 'touches' => []]),
        ]];
        foreach ([0.02, 0.3] as $stops) {
            $added = 100 * self::lab(0.72, 0.7, 0.62)[0] * (2 ** ($stops / 3) - 1);
            $finding = self::findings([], [PaintedFrame::of($paint)], $areas($stops))['over-white teeth'];
            self::assertEqualsWithDelta($added, $finding->measure(), 0.3);
            self::assertSame('The teeth were lighter than the eyes before; only what is added counts.', $finding->before);
        }
        $duller = static fn(float $x): array => $x < 0.5 ? [0.8, 0.79, 0.77] : [0.72, 0.7, 0.62];
        self::assertNull(self::findings([], [PaintedFrame::of($duller)], $areas(0.3))['over-white teeth']->before);
        $yellow = static fn(float $x): array => $x < 0.5 ? [0.8, 0.79, 0.7] : [0.72, 0.71, 0.7];
        $before = self::findings([], [PaintedFrame::of($yellow)], $areas(0.3))['over-white teeth']->before;
        self::assertSame('The teeth were bluer than the eyes before; only what is added counts.', $before);
    }

    public function test_a_mismatch_is_what_the_treatment_sets_apart(): void
    {
        $iris = static fn(string $id, float $x, array $touches): array => Documents::area(['id' => $id, 'part' => 'iris', 'person' => 'wren', 'outline' => ['at' => 0, 'shapes' => [['id' => "s{$id}", 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.2, 0.2]]]], 'touches' => $touches]);
        $lift = [['id' => 't1', 'kind' => 'exposure', 'stops' => 0.5]];
        $flat = PaintedFrame::of(static fn(): array => [0.3, 0.25, 0.2]);
        $one = self::findings([], [$flat], ['areas' => [$iris('l', 0.4, $lift), $iris('r', 1.2, [])]]);
        self::assertEqualsWithDelta(100 * sqrt(array_sum(array_map(static fn(float $v): float => ($v * (2 ** (1 / 6) - 1)) ** 2, self::lab(0.3, 0.25, 0.2)))), $one['mismatch r']->measure(), 0.1);
        self::assertArrayNotHasKey('mismatch l', $one);
        $both = self::findings([], [$flat], ['areas' => [$iris('l', 0.4, $lift), $iris('r', 1.2, [['id' => 't2', 'kind' => 'exposure', 'stops' => 0.5]])]]);
        self::assertEqualsWithDelta(0.0, $both['mismatch r']->measure(), 0.05);
    }

    public function test_teeth_treated_behind_closed_lips_are_told_by_what_is_left_of_them(): void
    {
        $teeth = PaintedFrame::of(static fn(): array => [0.75, 0.72, 0.62]);
        $lips = PaintedFrame::of(static fn(): array => [0.6, 0.3, 0.3]);
        $found = self::findings(['part' => 'teeth', 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 0.5]]], [$teeth, $teeth, $lips]);
        self::assertSame([2], array_keys($found['left on face']->measures));
        $change = sqrt(array_sum(array_map(static fn(float $v): float => ($v * (2 ** (1 / 6) - 1)) ** 2, self::lab(0.6, 0.3, 0.3))));
        self::assertEqualsWithDelta(100 * $change, $found['left on face']->measure(), 0.1);
        $gentle = self::findings(['part' => 'teeth', 'touches' => [['id' => 't', 'kind' => 'whiten', 'yellow' => 1, 'lift' => 0.1]]], [$teeth, $teeth, $lips]);
        self::assertSame(0.0, $gentle['left on face']->measure());
    }

    public function test_a_face_lifted_away_from_its_neck_is_a_mismatch(): void
    {
        $neck = Documents::area(['id' => 'neck', 'part' => 'neck', 'person' => 'dario', 'outline' => ['at' => 0, 'shapes' => [['id' => 'n1', 'kind' => 'ellipse', 'centre' => [0.3, 0.5], 'radii' => [0.2, 0.2]]]], 'touches' => []]);
        $face = static fn(string $person): array => Documents::area(['part' => 'face', 'person' => $person]);
        $flat = PaintedFrame::of(static fn(): array => [0.5, 0.4, 0.35]);
        $found = self::findings([], [$flat], ['areas' => [$face('dario'), $neck]]);
        self::assertEqualsWithDelta(100 * sqrt(array_sum(array_map(static fn(float $v): float => ($v * (2 ** (1 / 3) - 1)) ** 2, self::lab(0.5, 0.4, 0.35)))), $found['mismatch neck']->measure(), 0.3);
        self::assertArrayNotHasKey('mismatch neck', self::findings([], [$flat], ['areas' => [$face('wren'), $neck]]));
    }

    public function test_plastic_and_lifted_noise_are_told_by_the_share_of_texture(): void
    {
        $random = \Cossel\Core\Tests\Chance::seeded(3);
        $grain = PaintedFrame::of(static fn(): array => array_fill(0, 3, 0.45 + $random->between(-0.05, 0.05)));
        $found = static fn(array $touch): array => self::findings(['touches' => [['id' => 't', ...$touch]]], [$grain], fine: true);
        $lifted = $found(['kind' => 'exposure', 'stops' => 1]);
        self::assertEqualsWithDelta(0.0, $lifted['plastic face']->measure(), 0.5);
        self::assertEqualsWithDelta(2 ** (1 / 3), $lifted['noise lifted face']->measure(), 0.01);
        $soft = $found(['kind' => 'blur', 'radius' => 0.03]);
        self::assertGreaterThan(60, $soft['plastic face']->measure());
        self::assertLessThan(0.5, $soft['noise lifted face']->measure());
    }

    public function test_texture_lost_away_from_the_middle_is_found_over_the_shot(): void
    {
        $random = \Cossel\Core\Tests\Chance::seeded(3);
        $grain = PaintedFrame::of(static fn(): array => array_fill(0, 3, 0.45 + $random->between(-0.05, 0.05)), 320, 180);
        $patch = Documents::area(['id' => 'patch', 'part' => 'other', 'touches' => [['id' => 'p', 'kind' => 'blur', 'radius' => 0.03]], 'outline' => ['at' => 0, 'shapes' => [['id' => 'p1', 'kind' => 'box', 'centre' => [0.68, 0.32], 'radii' => [0.14, 0.14]]]]]);
        $face = Documents::area(['part' => 'face', 'person' => 'dario', 'live' => ['from' => 0, 'to' => 83], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 0.5]], 'outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'box', 'centre' => [0.9, 0.5], 'radii' => [0.4, 0.4]]]]]);
        $measures = self::findings([], array_fill_keys([0, 12, 24, 36, 48, 60, 72], $grain), ['areas' => [$face, $patch]], fine: true)['plastic face']->measures;
        self::assertGreaterThan(50, max($measures));
        self::assertLessThan(5, min($measures));
    }

    public function test_frames_over_the_limit_are_told_as_spans_and_a_limit_may_be_moved(): void
    {
        $telltale = Telltales::all()[0];
        $measures = [0 => 0.1, 1 => 2.0, 2 => 3.0, 4 => 2.0, 9 => 2.0, 10 => 0.5, 11 => 2.5];
        $finding = new Finding($telltale, null, $measures, 1.0);
        self::assertSame([[1, 4], [9, 9], [11, 11]], $finding->spans());
        self::assertSame([2, 3.0, true], [$finding->worst(), $finding->measure(), $finding->rings()]);
        self::assertFalse((new Finding($telltale, null, $measures, 3.0))->rings());
        $recipe = self::recipe();
        self::assertSame(7.0, Findings::of(['halo' => ['face' => [3 => 1.0]]], $recipe, ['halo' => 7.0])[0]->limit);
        self::assertSame($telltale->limit, Findings::of(['halo' => ['face' => [3 => 1.0]]], $recipe)[0]->limit);
    }

    /** @return array<string, mixed> the area after the first cure of a tell-tale over its limit */
    private static function cured(string $name, Recipe $recipe, array $measures, int $which = 0, ?string $of = 'face'): array
    {
        $telltale = array_values(array_filter(Telltales::all(), static fn(Telltale $t): bool => $t->name === $name))[0];
        $cure = (new Finding($telltale, $of === null ? null : $recipe->area($of), $measures, $telltale->limit))->cures($recipe)[$which];
        self::assertNotNull($cure->recipe);
        $cured = json_decode((new RecipeWriter())->json($cure->recipe), true);
        // What is proposed is a recipe that reads.
        (new RecipeReader(Kinds::all()))->read($cured);

        return $of === null ? $cured : $cured['areas'][array_search($of, array_column($cured['areas'], 'id'), true)];
    }

    public function test_each_cure_changes_what_it_says(): void
    {
        $recipe = self::recipe();
        self::assertGreaterThan(0.01, self::cured('halo', $recipe, [3 => 2.5])['outline']['shapes'][0]['featherOut']);
        self::assertLessThan(0.6, self::cured('halo', $recipe, [3 => 2.5], 1)['strength']);
        self::assertLessThan(0.0, self::cured('bleed', $recipe, [3 => 40.0])['outline']['shapes'][0]['grow']);
        $shifted = self::recipe(['motion' => ['by' => 'none', 'keys' => [['frame' => 0], ['frame' => 8, 'move' => [0.2, 0]]]]]);
        self::assertSame([0], array_column(self::cured('drift', $shifted, [0 => 0.0, 4 => 12.0, 8 => 30.0])['motion']['keys'], 'frame'));
        $keyed = self::recipe(['strength' => ['value' => 1, 'keys' => [['frame' => 0, 'value' => 1], ['frame' => 1, 'value' => 0.5]]]]);
        self::assertSame(0.75, self::cured('flicker', $keyed, [1 => 9.0])['strength']);
        $iris = self::recipe(['part' => 'iris', 'touches' => [['id' => 'i', 'kind' => 'iris', 'strength' => 1]]]);
        self::assertTrue(self::cured('left on', $iris, [3 => 9.0])['blinkGuard']['on']);
        self::assertSame([[1, 1.0], [2, 0.0], [5, 0.0], [6, 1.0]], array_map(static fn(array $k): array => [$k['frame'], (float) $k['value']], self::cured('left on', $iris, [3 => 9.0, 4 => 9.0], 1)['strength']['keys']));
        self::assertLessThan(0.3, self::cured('paint', $iris, [3 => 120.0])['touches'][0]['amount']);
        $teeth = self::recipe(['part' => 'teeth', 'touches' => [['id' => 'w', 'kind' => 'whiten', 'yellow' => 1, 'ceiling' => 1]]]);
        self::assertEquals(0.86, self::cured('over-white', $teeth, [3 => 9.0])['touches'][0]['ceiling']);
        $smooth = self::recipe(['touches' => [['id' => 'e', 'kind' => 'even', 'pores' => 1]]]);
        self::assertLessThan(0.5, self::cured('plastic', $smooth, [12 => 80.0])['touches'][0]['amount']);
        self::assertSame('legal', self::cured('levels', $recipe, [3 => 9.0], of: null)['finish'][0]['kind']);
        $noisy = self::recipe(['touches' => [['id' => 'n', 'kind' => 'tone', 'shadows' => 1]]]);
        self::assertGreaterThan(0.0, self::cured('noise lifted', $noisy, [12 => 3.0])['touches'][0]['calm']);
    }

    public function test_cures_of_edges_reach_keyed_feathers_too(): void
    {
        $shape = ['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.3], 'featherOut' => 0.01, 'keys' => [['frame' => 0, 'featherOut' => 0.01], ['frame' => 40, 'featherOut' => 0.06, 'turn' => 5]]];
        $recipe = self::recipe(['outline' => ['at' => 0, 'shapes' => [$shape]]]);
        $wider = self::cured('halo', $recipe, [3 => 2.5])['outline']['shapes'][0];
        self::assertGreaterThan(0.03, $wider['keys'][0]['featherOut']);
        self::assertGreaterThan(0.1, $wider['keys'][1]['featherOut']);
        // What a keyframe does not set, it does not set afterwards.
        self::assertSame([['frame', 'featherOut', 'ease'], ['frame', 'turn', 'featherOut', 'ease']], array_map(array_keys(...), $wider['keys']));
        $narrower = self::cured('bleed', $recipe, [3 => 40.0])['outline']['shapes'][0];
        self::assertLessThan(0.005, $narrower['keys'][0]['featherOut']);
        self::assertLessThan(0.03, $narrower['keys'][1]['featherOut']);
        self::assertArrayNotHasKey('grow', $narrower['keys'][0]);
        self::assertLessThan(0.0, $narrower['grow']);
    }

    public function test_cures_reach_keyed_settings_and_touches_that_are_linked(): void
    {
        $keyed = ['value' => 1, 'keys' => [['frame' => 0, 'value' => 1], ['frame' => 9, 'value' => 0.9]]];
        $teeth = self::recipe(['part' => 'teeth', 'touches' => [['id' => 'w', 'kind' => 'whiten', 'yellow' => 1, 'ceiling' => $keyed, 'amount' => $keyed]]]);
        $touch = self::cured('over-white', $teeth, [3 => 9.0])['touches'][0];
        self::assertSame([0.86, 0.86], array_map(floatval(...), array_column($touch['ceiling']['keys'], 'value')));
        self::assertLessThan(0.7, $touch['amount']['keys'][0]['value']);
    }

    public function test_an_area_that_slid_is_followed_again_from_its_last_good_frame(): void
    {
        $recipe = self::recipe();
        $drift = array_values(array_filter(Telltales::all(), static fn(Telltale $t): bool => $t->name === 'drift'))[0];
        [$cure] = (new Finding($drift, $recipe->areas[0], [0 => 0.0, 1 => 4.0, 2 => 8.0, 3 => 16.0, 4 => 30.0], 18.0))->cures($recipe);
        self::assertSame([2, null], [$cure->followFrom, $cure->recipe]);
        self::assertInstanceOf(Cure::class, $cure);
        self::assertSame([], (new Finding($drift, $recipe->areas[0], [0 => 1.0], 18.0))->cures($recipe));
    }

    public function test_a_halo_on_a_short_piece_of_the_edge_does_not_ring(): void
    {
        // The spot is darker than what is round it and lifted to that, but for a few degrees where all is dark.
        $light = 0.4 * 2 ** (1 / 2.4);
        $paint = static function (float $x, float $y) use ($light): array {
            $angle = rad2deg(atan2(($y - 0.5) / 0.3, ($x - 0.9) / 0.25));

            return array_fill(0, 3, hypot(($x - 0.9) / 0.25, ($y - 0.5) / 0.3) < 1 || abs($angle - 20) < 11 ? 0.4 : $light);
        };
        self::assertLessThan(1.0, self::findings([], [PaintedFrame::of($paint)])['halo face']->measure());
    }

    public function test_a_step_that_the_picture_has_itself_is_no_halo(): void
    {
        $stepped = PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, hypot(($x - 0.9) / 0.25, ($y - 0.5) / 0.3) < 1 ? 0.5 : 0.3));
        $gentle = ['touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 0.05]]];
        self::assertLessThan(0.2, self::findings($gentle, [$stepped])['halo face']->measure());
    }

    public function test_what_flickers_in_the_footage_and_only_grows_with_the_contrast_is_no_flicker(): void
    {
        $frames = array_map(static fn(int $f): Frame => PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, 0.4 + ($f % 2) * 0.02 + 0.12 * sin(6 * $x) * cos(5 * $y))), range(0, 4));
        foreach ([['kind' => 'tone', 'contrast' => 1.9, 'pivot' => 0.4], ['kind' => 'exposure', 'stops' => 0.2]] as $touch) {
            self::assertLessThan(0.15, self::findings(['touches' => [['id' => 't', ...$touch]]], $frames)['flicker face']->measure(), $touch['kind']);
        }
    }

    public function test_drift_is_counted_from_the_frame_the_outline_stands_on(): void
    {
        $textured = static fn(float $dx): Frame => PaintedFrame::of(static fn(float $x, float $y): array => array_fill(0, 3, 0.5 + 0.2 * sin(31 * ($x - $dx) + 7 * sin(9 * $y)) + 0.15 * cos(23 * $y + 5 * ($x - $dx))));
        $changes = ['outline' => ['at' => 3, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.25, 0.3]]]]];
        $measures = self::findings($changes, array_map($textured, [0.0, 0.02, 0.04, 0.06]))['drift face']->measures;
        self::assertSame(0.0, $measures[3]);
        self::assertEqualsWithDelta(100 * 0.06 / 0.6, $measures[0], 1.5);
    }

    public function test_a_single_stray_pixel_does_not_make_a_colour_the_areas_own(): void
    {
        $paint = static fn(float $x, float $y): array => hypot(($x - 0.9) / 0.25, ($y - 0.5) / 0.3) < sqrt(0.5) && !(abs($x - 0.9056) < 0.004 && abs($y - 0.5056) < 0.004) ? [0.6, 0.45, 0.35] : [0.2, 0.3, 0.6];
        self::assertGreaterThan(25.0, self::findings([], [PaintedFrame::of($paint)])['bleed face']->measure());
        // Covering brings other colours in by design.
        self::assertArrayNotHasKey('bleed face', self::findings(['touches' => [['id' => 't', 'kind' => 'conceal', 'offsetX' => -0.5]]], [PaintedFrame::of($paint)]));
    }

    public function test_an_iris_without_its_fibres_is_paint_whatever_its_colour(): void
    {
        $random = \Cossel\Core\Tests\Chance::seeded(5);
        $fibres = PaintedFrame::of(static fn(): array => [0.3 + ($n = $random->between(-0.08, 0.08)), 0.32 + $n, 0.35 + $n]);
        self::assertGreaterThan(60.0, self::findings(['part' => 'iris', 'touches' => [['id' => 't', 'kind' => 'blur', 'radius' => 0.05]]], [$fibres])['paint face']->measure());
        self::assertLessThan(10.0, self::findings(['part' => 'iris', 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 0.3]]], [$fibres])['paint face']->measure());
    }

    public function test_teeth_that_were_that_light_before_are_not_over_white(): void
    {
        $teeth = PaintedFrame::of(static fn(): array => [0.95, 0.93, 0.86]);
        self::assertLessThan(0.5, self::findings(['part' => 'teeth', 'touches' => [['id' => 't', 'kind' => 'whiten', 'yellow' => 0.3]]], [$teeth])['over-white face']->measure());
    }

    public function test_teeth_of_a_shot_that_the_base_makes_bright_are_not_over_white(): void
    {
        $teeth = PaintedFrame::of(static fn(): array => [0.75, 0.72, 0.62]);
        $found = self::findings(['part' => 'teeth', 'touches' => [['id' => 't', 'kind' => 'whiten', 'yellow' => 0.3]]], [$teeth], ['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]]);
        self::assertLessThan(0.5, $found['over-white face']->measure());
    }

    public function test_eyes_that_were_unlike_before_are_no_mismatch(): void
    {
        $iris = static fn(string $id, float $x): array => Documents::area(['id' => $id, 'part' => 'iris', 'person' => 'wren', 'outline' => ['at' => 0, 'shapes' => [['id' => "s{$id}", 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.2, 0.2]]]], 'touches' => [['id' => "t{$id}", 'kind' => 'exposure', 'stops' => 0.1]]]);
        $unlike = PaintedFrame::of(static fn(float $x): array => $x < 0.8 ? [0.3, 0.25, 0.2] : [0.25, 0.35, 0.45]);
        self::assertLessThan(1.0, self::findings([], [$unlike], ['areas' => [$iris('l', 0.4), $iris('r', 1.2)]])['mismatch r']->measure());
    }
}
