<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Telltale;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Telltale\Cure;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;
use Cossel\Core\Telltale\Telltale;
use Cossel\Core\Telltale\Telltales;
use Cossel\Core\Telltale\Trial;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

/** Cures are what they say: tried, and quiet when they are offered as cures. */
final class TrialTest extends TestCase
{
    private const WIDTH = 160;
    private const HEIGHT = 90;

    private static function frame(int $number): Frame
    {
        $format = new FrameFormat(self::WIDTH, self::HEIGHT, Layout::Rgb, transfer: Transfer::Bt1886);
        $planes = [[], [], []];
        for ($y = 0; $y < self::HEIGHT; ++$y) {
            for ($x = 0; $x < self::WIDTH; ++$x) {
                $texture = 0.03 * sin(0.5 * $x + $number) * cos(0.4 * $y);
                // Eyes to the left, teeth in the middle, skin about them.
                [$r, $g, $b] = hypot($x - 30, $y - 45) < 12 ? [0.6, 0.58, 0.56] : (hypot($x - 80, $y - 45) < 18 ? [0.68, 0.64, 0.52] : [0.5, 0.36, 0.28]);
                foreach ([$g, $b, $r] as $k => $v) {
                    $planes[$k][] = (int) round($format->black() + ($v + $texture) * $format->lumaSpan());
                }
            }
        }

        return new Frame($format, pack('v*', ...$planes[0], ...$planes[1], ...$planes[2]));
    }

    /** @param list<array<string, mixed>> $touches */
    private static function recipe(array $touches, string $part): Recipe
    {
        $round = static fn(string $id, float $x, float $r): array => ['at' => 0, 'shapes' => [['id' => $id, 'kind' => 'ellipse', 'centre' => [$x / 90, 0.5], 'radii' => [$r / 90, $r / 90], 'featherIn' => 0.01, 'featherOut' => 0.01]]];

        return Documents::read(['areas' => [
            Documents::area(['id' => 'teeth', 'part' => $part, 'person' => 'ione', 'outline' => $round('s1', 80, 18), 'touches' => $touches]),
            Documents::area(['id' => 'lids', 'part' => 'lids', 'person' => 'ione', 'outline' => $round('s2', 30, 12), 'touches' => []]),
        ]]);
    }

    /** @return \Closure(Recipe, list<int>): array<int, array<string, array<string, list<float>>>> */
    private static function look(): \Closure
    {
        return static function (Recipe $recipe, array $frames): array {
            $inspection = new Inspection($recipe, new Motions($recipe, []));
            $looks = [];
            foreach ($frames as $frame) {
                if ($frame >= 0 && $frame < 4) {
                    $looks[$frame] = $inspection->coarse(self::frame($frame), $frame);
                }
            }

            return $looks;
        };
    }

    /** @return list<Finding> those that ring */
    private static function ringing(Recipe $recipe): array
    {
        $findings = Findings::of(Findings::measures((self::look())($recipe, [0, 1, 2, 3]), $recipe), $recipe);

        return array_values(array_filter($findings, static fn(Finding $finding): bool => $finding->rings()));
    }

    public function test_after_three_applied_cures_a_tell_tale_is_quiet_or_nothing_more_is_offered(): void
    {
        $chance = Chance::seeded(11);
        $trial = new Trial(self::look());
        $rang = $cured = 0;
        for ($round = 0; $round < 5; ++$round) {
            $keys = array_map(static fn(int $f): array => ['frame' => $f, 'value' => $chance->between(0.3, 1.6), 'ease' => 'linear'], range(0, 3));
            $touches = [['id' => 't', 'kind' => 'exposure', 'stops' => $round % 3 === 0 ? ['value' => 0, 'keys' => $keys] : $chance->between(0.4, 2.0)]];
            if ($round % 2 === 0) {
                $touches[] = ['id' => 'w', 'kind' => 'whiten', 'yellow' => $chance->between(0.5, 1.0), 'lift' => $chance->between(0.02, 0.2), 'ceiling' => 1];
            }
            $recipe = self::recipe($touches, 'teeth');
            foreach (self::ringing($recipe) as $finding) {
                ++$rang;
                [$now, $left] = [$recipe, $finding];
                for ($applied = 0; $applied < 3 && $left !== null; ++$applied) {
                    $cure = $trial->cures($left, $now)[0] ?? null;
                    if ($cure?->recipe === null) {
                        break;
                    }
                    $before = $left->measure();
                    self::assertNotEquals($now, $cure->recipe);
                    $now = $cure->recipe;
                    $same = array_filter(self::ringing($now), static fn(Finding $f): bool => $f->telltale->name === $finding->telltale->name && $f->area?->id === $finding->area?->id);
                    $left = array_values($same)[0] ?? null;
                    // What it was said to come to is what it comes to, on the worst frames.
                    self::assertLessThan($before, $left?->measure() ?? 0.0, "{$finding->telltale->name}: {$cure->words}");
                    if ($cure->measure <= $finding->limit) {
                        self::assertNull($left, "{$finding->telltale->name}: {$cure->words}");
                        ++$cured;
                    }
                }
                self::assertTrue($left === null || ($trial->cures($left, $now)[0]->measure ?? INF) > $left->limit, "{$finding->telltale->name} still rings");
            }
        }
        self::assertGreaterThan(5, $rang);
        self::assertGreaterThan(0.7 * $rang, $cured);
    }

    public function test_what_cures_nothing_is_not_offered_and_what_helps_is_told_for_what_it_is(): void
    {
        $recipe = self::recipe([['id' => 't', 'kind' => 'exposure', 'stops' => 1]], 'teeth');
        foreach ([[9.9, []], [4.0, [4.0]], [0.5, [0.5, 0.5]]] as [$comesTo, $offered]) {
            $area = array_values(array_filter($recipe->areas, static fn(Area $a): bool => $a->id === 'teeth'))[0];
            $trial = new Trial(static fn(Recipe $cured, array $frames): array => array_fill_keys($frames, ['halo' => ['teeth' => [$comesTo]]]));
            $halo = array_values(array_filter(Telltales::all(), static fn(Telltale $t): bool => $t->name === 'halo'))[0];
            $cures = $trial->cures(new Finding($halo, $area, [0 => 2.0, 2 => 10.0], 1.0), $recipe);
            self::assertEquals($offered, array_map(static fn(Cure $cure): ?float => $cure->measure, $cures), (string) $comesTo);
        }
    }
}
