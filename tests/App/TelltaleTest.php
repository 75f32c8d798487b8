<?php

declare(strict_types=1);

namespace Tests\App;

use App\Judging\ShotInspection;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;
use Cossel\Measuring\DemoShots;
use Illuminate\Filesystem\Filesystem;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;

/** Tell-tales on made cases: demo shots treated well, and the same spoilt in the way that each is to find. */
#[Group('slow')]
final class TelltaleTest extends AppTestCase
{
    private const FEW = [26, 38, 50];
    /** Frames that fine ones look at. */
    private const FINE = [24, 48];
    private const RUN = [38, 39, 40, 41, 42, 43, 44, 45, 46];
    private const BLINK = [22, 23, 24, 25];
    private const STEPS = [40, 44, 48, 52, 56, 60, 64, 68];

    private const LIFT = ['id' => 'x', 'kind' => 'exposure', 'stops' => 1.2];

    /**
     * What is looked for, on which shot and frames, and what is changed: paths into an area of the recipe (or into the recipe,
     * for those with a slash at the front) and values; the last one tells the area.
     *
     * @return iterable<string, array{string, string, list<int>, ?string, array<string, mixed>}>
     */
    public static function spoilt(): iterable
    {
        $edge = ['outline.shapes.0.featherIn' => 0, 'outline.shapes.0.featherOut' => 0, 'pick' => null];
        yield 'halo: a lift without feather' => ['halo', 'gh010_backlit', self::FEW, 'face', [...$edge, 'outline.shapes.0.radii' => [0.24, 0.34]]];
        yield 'halo: skin lifted without feather' => ['halo', 'gh040_skin', self::FEW, 'face', [...$edge, 'touches' => [self::LIFT]]];
        yield 'halo: surroundings darkened without feather' => ['halo', 'gh010_backlit', self::FEW, 'around', [...$edge, 'touches' => [[...self::LIFT, 'side' => 'outside', 'stops' => -1]]]];
        yield 'halo: a hard spot of light' => ['halo', 'gh040_skin', self::FEW, 'spot1', [...$edge, 'touches' => [[...self::LIFT, 'stops' => 0.7]]]];
        $wide = ['outline.shapes.0.radii' => [0.25, 0.36], 'outline.shapes.0.featherOut' => 0.2, 'pick' => null];
        yield 'bleed: the window behind is lifted with the face' => ['bleed', 'gh010_backlit', self::FEW, 'face', $wide];
        yield 'bleed: gums and lips are whitened' => ['bleed', 'gh020_laugh', self::FEW, 'teeth', ['touches' => [['id' => 'x', 'kind' => 'colour', 'saturation' => 0.2]]]];
        yield 'bleed: lids are coloured with the iris' => ['bleed', 'gh030_gaze', self::FEW, 'irisL', ['pick' => null, 'outline.shapes.0.radii' => [0.08, 0.08], 'outline.shapes.0.featherOut' => 0.1, 'outline.shapes.1' => null, 'touches' => [['id' => 'x', 'kind' => 'colour', 'temperature' => 60]]]];
        yield 'drift: a head that is not followed' => ['drift', 'gh010_backlit', self::STEPS, 'face', ['motion' => ['by' => 'none']]];
        yield 'drift: a wrong correction' => ['drift', 'gh040_skin', self::STEPS, 'face', ['motion.keys' => [['frame' => 44], ['frame' => 56, 'move' => [0.14, 0]]], 'outline.at' => 40]];
        yield 'drift: lips that ride on nothing' => ['drift', 'gh020_laugh', self::STEPS, 'lips', ['motion' => ['by' => 'none']]];
        $restless = ['value' => 1, 'keys' => array_map(static fn(int $f): array => ['frame' => $f, 'value' => $f % 2 ? 0.6 : 1, 'ease' => 'linear'], self::RUN)];
        yield 'flicker: a restless lift' => ['flicker', 'gh010_backlit', self::RUN, 'face', ['strength' => $restless]];
        yield 'flicker: restless lightness of skin' => ['flicker', 'gh040_skin', self::RUN, 'face', ['touches' => [[...self::LIFT, 'stops' => 0.5, 'amount' => $restless]]]];
        yield 'flicker: a restless iris' => ['flicker', 'gh030_gaze', self::RUN, 'irisL', ['touches' => [[...self::LIFT, 'amount' => $restless]]]];
        yield 'left on: no blink guard, left' => ['left on', 'gh030_gaze', self::BLINK, 'irisL', ['blinkGuard' => ['on' => false]]];
        yield 'left on: no blink guard, right' => ['left on', 'gh030_gaze', self::BLINK, 'irisR', ['blinkGuard' => ['on' => false]]];
        yield 'left on: a lift on the lid' => ['left on', 'gh030_gaze', self::BLINK, 'irisL', ['blinkGuard' => ['on' => false], 'pick' => null, 'strength' => 0.5, 'touches' => [self::LIFT]]];
        $white = ['id' => 'x', 'kind' => 'whiten', 'yellow' => 1, 'lift' => 0.2, 'ceiling' => 1];
        yield 'over-white: whitening at full' => ['over-white', 'gh020_laugh', self::FEW, 'teeth', ['touches' => [$white]]];
        yield 'over-white: bluer than neutral' => ['over-white', 'gh020_laugh', self::FEW, 'teeth', ['touches' => [[...$white, 'lift' => 0, 'clean' => -0.04]]]];
        yield 'over-white: teeth lit up' => ['over-white', 'gh020_laugh', self::FEW, 'teeth', ['touches' => [[...self::LIFT, 'stops' => 1.5]]]];
        $iris = ['id' => 'x', 'kind' => 'iris', 'strength' => 1, 'hue' => 150, 'chroma' => 0.05];
        yield 'paint: fibres flattened' => ['paint', 'gh030_gaze', self::FEW, 'irisL', ['touches' => [[...$iris, 'contrast' => -0.8]]]];
        yield 'paint: one loud colour all over' => ['paint', 'gh030_gaze', self::FEW, 'irisL', ['touches' => [[...$iris, 'chroma' => 0.25, 'pupil' => 0]]]];
        yield 'paint: blurred' => ['paint', 'gh030_gaze', self::FEW, 'irisR', ['pair' => null, 'touches' => [['id' => 'x', 'kind' => 'blur', 'radius' => 0.05]]]];
        yield 'mismatch: one iris treated' => ['mismatch', 'gh030_gaze', self::FEW, 'irisR', ['pair.linked' => false]];
        yield 'mismatch: another hue' => ['mismatch', 'gh030_gaze', self::FEW, 'irisR', ['pair.linked' => false, 'touches' => [[...$iris, 'hue' => 20, 'chroma' => 0.1]]]];
        yield 'mismatch: one lifted' => ['mismatch', 'gh030_gaze', self::FEW, 'irisR', ['pair.linked' => false, 'touches' => [self::LIFT]]];
        $even = ['id' => 'x', 'kind' => 'even', 'tone' => 1, 'pores' => 1, 'lines' => 1, 'width' => 0.43];
        yield 'plastic: pores and lines gone' => ['plastic', 'gh040_skin', self::FINE, 'face', ['touches' => [$even]]];
        yield 'plastic: blurred' => ['plastic', 'gh040_skin', self::FINE, 'face', ['touches' => [['id' => 'x', 'kind' => 'blur', 'radius' => 0.01]]]];
        yield 'plastic: a blurred face' => ['plastic', 'gh010_backlit', self::FINE, 'face', ['touches' => [['id' => 'x', 'kind' => 'blur', 'radius' => 0.006]]]];
        yield 'noise lifted: an iris of hard contrast' => ['noise lifted', 'gh030_gaze', self::FINE, 'irisL', ['touches' => [[...$iris, 'contrast' => 1.5]]]];
        yield 'noise lifted: three stops on a face' => ['noise lifted', 'gh010_backlit', self::FINE, 'face', ['touches' => [[...self::LIFT, 'stops' => 3]]]];
        yield 'noise lifted: sharpened skin' => ['noise lifted', 'gh040_skin', self::FINE, 'face', ['touches' => [['id' => 'x', 'kind' => 'sharpen', 'amount' => 1, 'strength' => 2, 'radius' => 0.002]]]];
        yield 'levels: lifted over white' => ['levels', 'gh010_backlit', self::FEW, null, ['/finish' => [], '/base' => [[...self::LIFT, 'stops' => 1.5]]]];
        yield 'levels: gain' => ['levels', 'gh020_laugh', self::FEW, null, ['/finish' => [], '/base' => [['id' => 'x', 'kind' => 'tone', 'gain' => 1.6]]]];
        yield 'levels: under black' => ['levels', 'gh010_backlit', self::FEW, null, ['/finish' => [], '/base' => [['id' => 'x', 'kind' => 'tone', 'contrast' => 2.5, 'pivot' => 0.6]]]];
    }

    /** @return iterable<string, array{string, list<int>, list<string>, array<string, array<string, mixed>>}> shot, frames, what has to have a measure, and what is changed */
    public static function good(): iterable
    {
        yield 'the face as delivered' => ['gh010_backlit', [...range(0, 83, 4), ...self::RUN], ['halo face', 'halo around', 'bleed face', 'drift face', 'flicker face', 'plastic face', 'noise lifted face', 'levels '], []];
        yield 'the mouth as delivered' => ['gh020_laugh', range(10, 70), ['halo teeth', 'halo lips', 'bleed teeth', 'bleed lips', 'drift lips', 'flicker lips', 'flicker teeth', 'over-white teeth', 'noise lifted lips', 'levels '], []];
        yield 'the eyes as delivered' => ['gh030_gaze', [...range(20, 44), 48, 60], ['halo irisL', 'halo irisR', 'bleed irisL', 'drift irisL', 'drift irisR', 'flicker irisL', 'left on irisL', 'left on irisR', 'paint irisL', 'paint irisR', 'mismatch irisR', 'noise lifted irisL', 'levels '], []];
        yield 'the skin as delivered' => ['gh040_skin', [...self::FINE, ...self::RUN, 68, 80], ['halo face', 'halo spot1', 'halo spot2', 'bleed face', 'drift face', 'flicker face', 'flicker spot1', 'plastic face', 'noise lifted face', 'levels '], []];
        yield 'a softer lift of the face' => ['gh010_backlit', self::RUN, ['halo face', 'bleed face', 'flicker face'], ['face' => ['touches' => [[...self::LIFT, 'stops' => 0.6]]]]];
        yield 'gentler whitening' => ['gh020_laugh', [...self::FEW, 40, 41, 42], ['over-white teeth', 'bleed teeth'], ['teeth' => ['touches' => [['id' => 'x', 'kind' => 'whiten', 'yellow' => 0.3]]]]];
        yield 'whitening and the tone of a lamp' => ['gh020_laugh', self::FEW, ['over-white teeth'], ['teeth' => ['touches' => [['id' => 'x', 'kind' => 'whiten', 'yellow' => 0.7, 'lift' => 0.03]]]]];
        yield 'brown eyes' => ['gh030_gaze', [...self::BLINK, ...self::FEW], ['paint irisL', 'paint irisR', 'mismatch irisR', 'left on irisL'], ['irisL' => ['touches' => [['id' => 'x', 'kind' => 'iris', 'strength' => 0.8, 'hue' => 60, 'chroma' => 0.05]]]]];
        yield 'guarded by the lids alone' => ['gh030_gaze', range(21, 28), ['left on irisL', 'left on irisR'], ['irisL' => ['blinkGuard.keys' => []], 'irisR' => ['blinkGuard.keys' => []]]];
        yield 'eyes opened a little' => ['gh030_gaze', [38, ...self::FINE], ['mismatch irisR', 'paint irisL', 'noise lifted irisL'], ['irisL' => ['touches' => [[...self::LIFT, 'stops' => 0.5]]]]];
        yield 'even skin at full, with its grain' => ['gh040_skin', self::FINE, ['plastic face', 'halo face', 'noise lifted face'], ['face' => ['touches' => [['id' => 'x', 'kind' => 'even', 'tone' => 1, 'width' => 0.43], ['id' => 'y', 'kind' => 'grain', 'level' => 1]]]]];
        yield 'a bright shot kept legal' => ['gh020_laugh', self::FEW, ['levels '], ['' => ['base' => [[...self::LIFT, 'stops' => 1]]]]];
    }

    /** Frames are decoded once for all cases. */
    private static string $frames;

    public static function setUpBeforeClass(): void
    {
        parent::setUpBeforeClass();
        self::$frames = sys_get_temp_dir() . '/cossel-telltales-' . bin2hex(random_bytes(6));
    }

    public static function tearDownAfterClass(): void
    {
        parent::tearDownAfterClass();
        (new Filesystem())->deleteDirectory(self::$frames);
    }

    protected function setUp(): void
    {
        parent::setUp();
        config(['cossel.cache.path' => self::$frames]);
    }

    /** @param array<string, mixed> $changes */
    #[DataProvider('spoilt')]
    public function test_it_rings_on_what_is_spoilt(string $name, string $shot, array $frames, ?string $area, array $changes): void
    {
        $finding = $this->findings($shot, $frames, [$area ?? '' => $changes])["{$name} {$area}"] ?? null;

        self::assertInstanceOf(Finding::class, $finding);
        self::assertGreaterThan($finding->limit, $finding->measure());
        self::assertContains($finding->worst(), $frames);
    }

    /**
     * @param list<int>                           $frames
     * @param list<string>                        $expected
     * @param array<string, array<string, mixed>> $changes
     */
    #[DataProvider('good')]
    public function test_it_is_quiet_on_what_is_good(string $shot, array $frames, array $expected, array $changes): void
    {
        sort($frames);
        $findings = $this->findings($shot, array_values(array_unique($frames)), $changes);

        self::assertSame([], array_values(array_diff($expected, array_keys($findings))));
        self::assertSame([], array_map(static fn(Finding $f): float => $f->measure(), array_filter($findings, static fn(Finding $f): bool => $f->rings())));
    }

    /** @param array<string, array<string, mixed>> $changes @return array<string, Finding> by tell-tale and area */
    private function findings(string $shot, array $frames, array $changes): array
    {
        $demo = $this->app->make(DemoShots::class)->named($shot);
        $recipe = $demo->recipe(static fn(array $document): array => self::changed($document, $changes));
        $looks = iterator_to_array($this->app->make(ShotInspection::class)->looks(new Inspection($recipe, $demo->motions($recipe)), $demo->footage, $frames));
        $findings = [];
        foreach (Findings::of(Findings::measures($looks, $recipe), $recipe) as $finding) {
            $findings[$finding->telltale->name . ' ' . ($finding->area->id ?? '')] = $finding;
        }

        return $findings;
    }

    /** @param array<string, array<string, mixed>> $changes by area */
    private static function changed(array $document, array $changes): array
    {
        foreach ($changes as $area => $values) {
            $at = array_search($area, array_column($document['areas'], 'id'), true);
            foreach ($values as $path => $value) {
                data_set($document, $path[0] === '/' ? substr($path, 1) : ($area === '' ? $path : "areas.{$at}.{$path}"), $value);
            }
        }
        foreach ($document['areas'] as &$one) {
            $one['outline']['shapes'] = array_values(array_filter($one['outline']['shapes']));
        }

        return $document;
    }
}
