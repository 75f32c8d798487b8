<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\MissingTrack;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

final class MotionsTest extends TestCase
{
    private const SHA = 'cdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcdcd';

    private static function track(): Track
    {
        $steps = [];
        for ($f = 0; $f <= 20; ++$f) {
            $steps[$f] = new Step(Matrix::about(0.3, 0.3, 2 * ($f - 5), 1 + 0.01 * ($f - 5), 1 + 0.01 * ($f - 5), 0.02 * ($f - 5), 0), $f === 5 ? State::Set : State::Followed, 0.9);
        }

        return Track::of(5, Model::Similarity, $steps);
    }

    /**
     * @param array<string, mixed>       $motion
     * @param list<array<string, mixed>> $more
     */
    private static function motions(array $motion, int $at = 8, array $more = []): array
    {
        $area = Documents::area(['motion' => ['by' => 'follow', 'start' => 5, 'span' => [0, 20], 'track' => ['sha256' => self::SHA], 'pivot' => [0.9, 0.5], ...$motion]]);
        $area['outline']['at'] = $at;
        $recipe = Documents::read(['areas' => [$area, ...$more]]);

        return [$recipe, new Motions($recipe, [self::SHA => self::track()])];
    }

    private static function same(Matrix $wanted, Matrix $found): void
    {
        foreach ($wanted->m as $i => $v) {
            self::assertEqualsWithDelta($v, $found->m[$i], 1e-9);
        }
    }

    public function test_the_outlines_own_frame_stays_put_wherever_the_follow_started(): void
    {
        [$recipe, $motions] = self::motions([]);
        self::same(Matrix::identity(), $motions->of($recipe->areas[0], 8));
        self::same(self::track()->matrix(15)->times(self::track()->matrix(8)->inverse()), $motions->of($recipe->areas[0], 15));
    }

    public function test_channels_are_dropped_about_the_pivot(): void
    {
        [$recipe, $motions] = self::motions(['use' => ['position']]);
        $whole = self::track()->matrix(15)->times(self::track()->matrix(8)->inverse());
        [$x, $y] = $whole->apply(0.9, 0.5);
        self::same(Matrix::move($x - 0.9, $y - 0.5), $motions->of($recipe->areas[0], 15));
        [$recipe, $motions] = self::motions(['use' => ['rotation']]);
        self::same(Matrix::about(0.9, 0.5, 14, 1, 1), $motions->of($recipe->areas[0], 15));
    }

    public function test_corrections_by_hand_go_on_top_and_blend(): void
    {
        [$recipe, $motions] = self::motions(['use' => [], 'keys' => [
            ['frame' => 4, 'move' => [0, 0], 'ease' => 'linear'],
            ['frame' => 8, 'move' => [0.4, 0], 'turn' => 20, 'scale' => 1.2],
        ]]);
        self::same(Matrix::about(0.9, 0.5, 10, 1.1, 1.1, 0.2, 0), $motions->of($recipe->areas[0], 6));
        self::same(Matrix::about(0.9, 0.5, 20, 1.2, 1.2, 0.4, 0), $motions->of($recipe->areas[0], 20));
    }

    public function test_shear_and_perspective_can_be_dropped_and_kept(): void
    {
        $whole = Matrix::of([1.1, 0.3, -0.1, 0.05, 0.9, 0.02, 0.1, -0.05, 1]);
        $track = Track::of(0, Model::Perspective, [0 => new Step(Matrix::identity(), State::Set, 1.0), 1 => new Step($whole, State::Followed, 0.9)]);
        $moved = static function (array $use) use ($track): Matrix {
            $area = Documents::area(['motion' => ['by' => 'follow', 'track' => ['sha256' => self::SHA], 'pivot' => [0.9, 0.5], 'use' => $use]]);
            $recipe = Documents::read(['areas' => [$area]]);

            return (new Motions($recipe, [self::SHA => $track]))->of($recipe->areas[0], 1);
        };
        self::same($whole, $moved(['position', 'rotation', 'scale', 'shear', 'perspective']));
        $local = $whole->affineAt(0.9, 0.5);
        self::same($local, $moved(['position', 'rotation', 'scale', 'shear']));
        [$x, $y] = $whole->apply(0.9, 0.5);
        self::same(Matrix::about(0.9, 0.5, $local->turn(), $local->scale(), $local->scale(), $x - 0.9, $y - 0.5), $moved(['position', 'rotation', 'scale']));
        $sheared = $moved(['shear']);
        self::assertEqualsWithDelta(1.0, $sheared->scale(), 1e-9);
        self::assertEqualsWithDelta(0.0, $sheared->turn(), 1e-9);
    }

    public function test_a_correction_can_shear_about_the_pivot(): void
    {
        [$recipe, $motions] = self::motions(['use' => [], 'keys' => [['frame' => 8, 'shear' => 0.5]]]);
        self::assertEqualsWithDelta([0.9, 0.5], $motions->of($recipe->areas[0], 8)->apply(0.9, 0.5), 1e-12);
        self::assertEqualsWithDelta([1.0, 0.7], $motions->of($recipe->areas[0], 8)->apply(0.9, 0.7), 1e-12);
    }

    public function test_a_shape_with_a_motion_of_its_own_leaves_the_area(): void
    {
        $area = Documents::area(['motion' => ['by' => 'follow', 'track' => ['sha256' => self::SHA]]]);
        $area['outline']['shapes'][] = ['id' => 's2', 'kind' => 'ellipse', 'centre' => [0.5, 0.5], 'radii' => [0.1, 0.1], 'motion' => ['by' => 'none', 'keys' => [['frame' => 10, 'move' => [0.2, 0]]]]];
        $recipe = Documents::read(['areas' => [$area]]);
        $motions = new Motions($recipe, [self::SHA => self::track()]);
        [$first, $second] = $recipe->areas[0]->outline->shapes;
        self::same($motions->of($recipe->areas[0], 15), $motions->ofShape($recipe->areas[0], $first, 15));
        self::same(Matrix::move(0.2, 0), $motions->ofShape($recipe->areas[0], $second, 15));
    }

    public function test_points_followed_on_their_own_carry_a_path_that_was_changed_afterwards(): void
    {
        $square = [new PathPoint(0.4, 0.4), new PathPoint(0.8, 0.4), new PathPoint(0.8, 0.8), new PathPoint(0.4, 0.8)];
        $pulled = [$square[0], new PathPoint(1.0, 0.4), new PathPoint(1.0, 0.8), $square[3]];
        $track = Track::of(0, Model::Outline, [0 => new Step(Matrix::identity(), State::Set, 1.0, $square), 1 => new Step(Matrix::move(0.1, 0), State::Followed, 0.9, $pulled)]);
        $path = ['id' => 'p', 'kind' => 'path', 'points' => [['at' => [0.4, 0.4]], ['at' => [0.6, 0.4]], ['at' => [0.8, 0.42]], ['at' => [0.8, 0.8]], ['at' => [0.4, 0.8]]]];
        $recipe = Documents::read(['areas' => [['id' => 'lips', 'name' => 'Lips', 'outline' => ['at' => 0, 'shapes' => [$path]], 'motion' => ['by' => 'follow', 'model' => 'outline', 'track' => ['sha256' => self::SHA]], 'live' => ['from' => 0, 'to' => 1]]]]);
        $area = $recipe->areas[0];
        $pose = (new Motions($recipe, [self::SHA => $track]))->pose($area, $area->outline->shapes[0], 1);
        $ends = array_map(static fn(PathPoint $p): array => [round($p->moved($pose->motion)->x, 6), round($p->moved($pose->motion)->y, 6)], $pose->warp?->path($area->outline->shapes[0]->points) ?? []);
        // The point put in half-way goes half as far; the one drawn a little off its old place keeps that distance.
        self::assertSame([[0.4, 0.4], [0.7, 0.4], [1.0, 0.42], [1.0, 0.8], [0.4, 0.8]], $ends);
        self::assertSame($track->json(), Track::read(json_decode($track->json(), true))->json());
    }

    public function test_a_riding_area_moves_with_the_other(): void
    {
        $rider = Documents::area(['id' => 'neck', 'motion' => ['by' => 'ride', 'on' => 'face'], 'touches' => []]);
        $rider['outline']['at'] = 12;
        $rider['outline']['shapes'][0]['id'] = 's2';
        [$recipe, $motions] = self::motions([], 8, [$rider]);
        self::same($motions->of($recipe->areas[0], 18)->times($motions->of($recipe->areas[0], 12)->inverse()), $motions->of($recipe->areas[1], 18));
    }

    public function test_beyond_its_ends_a_track_stands_still(): void
    {
        self::same(self::track()->matrix(20), self::track()->matrix(60));
        self::same(self::track()->matrix(0), self::track()->matrix(-3));
    }

    public function test_a_track_that_is_not_there_is_named(): void
    {
        [$recipe] = self::motions([]);
        $this->expectException(MissingTrack::class);
        $this->expectExceptionMessage('face');
        (new Motions($recipe, []))->of($recipe->areas[0], 3);
    }

    public function test_following_again_from_elsewhere_continues_the_track_there(): void
    {
        $again = self::track()->with(10, Model::Similarity, [11 => new Step(Matrix::move(0.1, 0), State::Followed, 0.8)]);
        self::same(self::track()->matrix(10), $again->matrix(10));
        self::same(Matrix::move(0.1, 0)->times(self::track()->matrix(10)), $again->matrix(11));
        self::same(self::track()->matrix(12), $again->matrix(12));
        self::assertSame(10, $again->start);
    }

    public function test_a_written_track_reads_back_the_same(): void
    {
        $track = self::track();
        self::assertSame($track->json(), Track::read(json_decode($track->json(), true))->json());
    }

    public function test_a_broken_track_says_where(): void
    {
        $document = json_decode(self::track()->json(), true);
        $document['frames'][3]['matrix'] = [1, 0, 0, 2, 0, 0, 0, 0, 1];
        try {
            Track::read($document);
            self::fail();
        } catch (InvalidRecipe $e) {
            self::assertSame('/frames/3/matrix', $e->pointer);
        }
    }

    public function test_a_correction_moves_along_the_picture_however_the_track_has_turned(): void
    {
        // On frame 20 the track has turned by 24 degrees since frame 8.
        [$recipe, $motions] = self::motions(['keys' => [['frame' => 0, 'move' => [0.1, 0.0]]]]);
        $whole = self::track()->matrix(20)->times(self::track()->matrix(8)->inverse());
        [$x, $y] = $whole->apply(0.7, 0.6);
        self::assertEqualsWithDelta([$x + 0.1, $y], $motions->of($recipe->areas[0], 20)->apply(0.7, 0.6), 1e-9);
    }
}
