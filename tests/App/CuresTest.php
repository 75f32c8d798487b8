<?php

declare(strict_types=1);

namespace Tests\App;

use App\Judging\ShotInspection;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;
use Cossel\Core\Telltale\Trial;
use Cossel\Core\Tests\Chance;
use Cossel\Measuring\DemoShots;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;

/** Cures of treatments spoilt at random: after three at the most the tell-tale is quiet, or nothing more is offered. */
#[Group('slow')]
final class CuresTest extends AppTestCase
{
    private const FRAMES = [46, 47, 48, 49, 50];
    private const MOST = 3;

    /** @return iterable<string, array{string, int}> */
    public static function shots(): iterable
    {
        foreach (['gh010_backlit', 'gh020_laugh', 'gh030_gaze', 'gh040_skin'] as $shot) {
            foreach ([1, 2] as $seed) {
                yield "{$shot}, {$seed}" => [$shot, $seed];
            }
        }
    }

    /**
     * One area made too strong in a way that somebody could have set it.
     *
     * @param array<string, mixed> $document
     *
     * @return array<string, mixed>
     */
    private static function spoilt(array $document, Chance $chance): array
    {
        $treated = array_keys(array_filter($document['areas'], static fn(array $area): bool => ($area['touches'] ?? []) !== []));
        $area = &$document['areas'][$treated[$chance->whole(0, count($treated) - 1)]];
        $area['touches'][] = [
            ['id' => 'spoilt', 'kind' => 'exposure', 'stops' => $chance->between(0.8, 1.8)],
            ['id' => 'spoilt', 'kind' => 'colour', 'saturation' => $chance->between(1.8, 3.0)],
            ['id' => 'spoilt', 'kind' => 'colour', 'temperature' => $chance->between(40.0, 90.0)],
            ['id' => 'spoilt', 'kind' => 'tone', 'gain' => $chance->between(1.3, 1.8)],
            ['id' => 'spoilt', 'kind' => 'blur', 'radius' => $chance->between(0.004, 0.02)],
        ][$chance->whole(0, 4)];
        if ($chance->whole(0, 1) === 1) {
            foreach ($area['outline']['shapes'] as &$shape) {
                if ($shape['kind'] !== 'area') {
                    [$shape['featherIn'], $shape['featherOut']] = [0.0, 0.0];
                }
            }
        }

        return $document;
    }

    #[DataProvider('shots')]
    public function test_three_cures_are_enough_or_nothing_is_offered(string $shot, int $seed): void
    {
        $demo = $this->app->make(DemoShots::class)->named($shot);
        $chance = Chance::seeded(40 + $seed);
        $inspection = $this->app->make(ShotInspection::class);
        $look = static fn(Recipe $of, array $frames): array => iterator_to_array($inspection->looks(new Inspection($of, $demo->motions($of)), $demo->footage, array_values(array_intersect($frames, self::FRAMES))));
        $rings = static function (Recipe $of) use ($look): array {
            $local = array_filter(Findings::of(Findings::measures($look($of, self::FRAMES), $of), $of), static fn(Finding $f): bool => $f->rings() && $f->telltale->isLocal);

            return array_combine(array_map(static fn(Finding $f): string => "{$f->telltale->name} {$f->area?->id}", $local), $local);
        };
        $trial = new Trial($look);
        $writer = new RecipeWriter();
        // Not all that is spoilt so gives itself away.
        for ($try = 0, $first = []; $first === [] && $try < 5; ++$try) {
            $recipe = $demo->recipe(static fn(array $document): array => self::spoilt($document, $chance));
            $first = $rings($recipe);
        }
        self::assertNotSame([], $first);
        foreach ($first as $name => $finding) {
            $now = $recipe;
            for ($cure = 0; $cure <= self::MOST && $finding !== null; ++$cure) {
                $offered = $trial->cures($finding, $now)[0] ?? null;
                if ($offered?->recipe === null) {
                    break;
                }
                self::assertLessThan(self::MOST, $cure, "{$name} is offered a fourth cure: {$offered->words}");
                self::assertNotSame($writer->json($now), $writer->json($offered->recipe), "{$name}: the cure changes nothing");
                self::assertLessThan($finding->measure(), (float) $offered->measure, $name);
                $now = $offered->recipe;
                $finding = $rings($now)[$name] ?? null;
            }
            $this->addToAssertionCount(1);
        }
    }
}
