<?php

declare(strict_types=1);

namespace Tests\App;

use App\Following\AreaFollower;
use App\Footage\FootageFile;
use App\Footage\Probe;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Measuring\FollowAccuracy;
use Cossel\Measuring\IrisAccuracy;
use Cossel\Measuring\LipAccuracy;
use Cossel\Measuring\Ranks;
use Cossel\Measuring\Samples;
use PHPUnit\Framework\Attributes\Group;

/** Following on the demo shots against their ground truth. */
final class FollowingTest extends AppTestCase
{
    /** @param array<string, mixed> $area */
    private function follow(string $shot, array $area, int $start): Track
    {
        $path = base_path("demo/footage/{$shot}.webm");
        $footage = new FootageFile($path, (string) hash_file('sha256', $path), $this->app->make(Probe::class)->read($path), basename($path));
        $recipe = $this->app->make(RecipeReader::class)->read(Samples::recipe($footage, areas: [$area]));

        return $this->app->make(AreaFollower::class)->follow($footage, $recipe, $recipe->areas[0], null, [], $start, 0, $footage->info->frames() - 1);
    }

    private static function truth(string $shot): string
    {
        return base_path("demo/truth/{$shot}.truth.json");
    }

    #[Group('slow')]
    public function test_a_turning_face_is_followed_nearly_as_well_as_the_model_can(): void
    {
        $accuracy = FollowAccuracy::of(self::truth('gh010_backlit'), 40, Model::Similarity);
        $track = $this->follow('gh010_backlit', $accuracy->area(), 40);
        self::assertLessThan(FollowAccuracy::rms($accuracy->floors()) + 0.3, FollowAccuracy::rms($accuracy->errors($track)));
    }

    #[Group('slow')]
    public function test_a_cover_is_declared_with_its_ends_and_the_face_found_again(): void
    {
        $accuracy = FollowAccuracy::of(self::truth('gh050_leaf'), 20, Model::Similarity);
        $track = $this->follow('gh050_leaf', $accuracy->area(), 20);
        $unseen = array_keys(array_filter($track->steps, static fn($step): bool => in_array($step->state, [State::Lost, State::Bridged], true)));
        self::assertSame(range(min($unseen), max($unseen)), $unseen);
        self::assertEqualsWithDelta([42, 49], [min($unseen), max($unseen)], 1);
        self::assertLessThan(1.0, $accuracy->errors($track)[54]);
    }

    #[Group('slow')]
    public function test_irises_and_closed_lids_are_found(): void
    {
        $accuracy = IrisAccuracy::of(self::truth('gh030_gaze'), 'eye_r', 0);
        $track = $this->follow('gh030_gaze', $accuracy->area(), 0);
        [$centre, $radius] = $accuracy->errors($track);
        self::assertLessThan(1.5, $centre);
        self::assertLessThan(6.0, $radius);
        preg_match_all('/\d+/', implode(' ', $accuracy->closed($track)), $ends);
        self::assertCount(8, $ends[0]);
        self::assertEqualsWithDelta(array_map(intval(...), array_slice($ends[0], 4)), array_map(intval(...), array_slice($ends[0], 0, 4)), 1);
    }

    #[Group('slow')]
    public function test_speaking_lips_keep_their_outline(): void
    {
        $accuracy = LipAccuracy::of(base_path('demo/truth/labels/gh020_laugh.zip'), 40);
        $distances = $accuracy->distances($this->follow('gh020_laugh', $accuracy->area(), 40));
        self::assertLessThan(2.5, array_sum($distances) / count($distances));
    }

    public function test_ranks_correlate_as_spearman_says(): void
    {
        self::assertEqualsWithDelta(-0.175757575, Ranks::correlation([106, 100, 86, 101, 99, 103, 97, 113, 112, 110], [7, 27, 2, 50, 28, 29, 20, 12, 6, 17]), 1e-6);
        self::assertSame(1.0, Ranks::correlation([1, 2, 2, 3], [10, 20, 20, 90]));
    }
}
