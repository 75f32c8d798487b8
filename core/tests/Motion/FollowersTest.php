<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Followers;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\OutlineFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

final class FollowersTest extends TestCase
{
    /**
     * @param array<string, mixed>       $motion
     * @param list<array<string, mixed>> $shapes
     *
     * @return array<int, Step>
     */
    private static function follow(FrameSource $source, array $motion, int $to, array $shapes = [], ?int $shape = null): array
    {
        $area = Documents::area(['motion' => ['by' => 'follow', ...$motion]]);
        $area['outline']['shapes'] = $shapes === [] ? [self::disc()] : $shapes;
        $recipe = Documents::read(['areas' => [$area]]);
        $motions = new Motions($recipe, []);

        return iterator_to_array(Followers::from($source, $recipe->areas[0], $shape === null ? null : $recipe->areas[0]->outline->shapes[$shape], 0, $motions)->to($to));
    }

    /** @return array<string, mixed> over the disc of {@see MovingTexture} */
    private static function disc(): array
    {
        return ['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.75, 0.5], 'radii' => [0.27, 0.27]];
    }

    private static function error(Step $step, Matrix $truth, float $x, float $y): float
    {
        [$u, $v] = $step->matrix->inPixels(160)->apply($x, $y);
        [$p, $q] = $truth->apply($x, $y);

        return hypot($u - $p, $v - $q);
    }

    public function test_one_small_spot_gives_the_position_whatever_model_is_asked_for(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::move(1.4 * $f, -0.8 * $f);
        $steps = self::follow(new MovingTexture($motion), ['model' => 'similarity', 'look' => ['by' => 'spots', 'spots' => [[0.78, 0.47]], 'radius' => 0.07]], 10);
        self::assertEqualsWithDelta(1.0, $steps[10]->matrix->scale(), 1e-12);
        self::assertLessThan(0.3, self::error($steps[10], $motion(10), 125, 75));
    }

    public function test_two_spots_give_turn_and_scale_too(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::about(120, 80, 1.2 * $f, 1 + 0.006 * $f, 1 + 0.006 * $f, 0.8 * $f, 0);
        $steps = self::follow(new MovingTexture($motion), ['model' => 'similarity', 'look' => ['by' => 'spots', 'spots' => [[0.6, 0.5], [0.9, 0.5]], 'radius' => 0.06]], 10);
        self::assertEqualsWithDelta(12.0, $steps[10]->matrix->turn(), 0.3);
        self::assertEqualsWithDelta(1.06, $steps[10]->matrix->scale(), 0.006);
    }

    public function test_shear_and_perspective_are_found_by_their_models(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::of([1 + 0.004 * $f, 0.008 * $f, -0.9 * $f, 0.0, 1 - 0.003 * $f, 0.5 * $f, 0.00004 * $f, 0, 1]);
        foreach (['affine' => 0.9, 'perspective' => 0.4] as $model => $within) {
            $steps = self::follow(new MovingTexture($motion), ['model' => $model], 12);
            foreach ([[95, 60], [145, 60], [120, 110]] as [$x, $y]) {
                self::assertLessThan($within, self::error($steps[12], $motion(12), $x, $y), $model);
            }
        }
    }

    public function test_what_is_cut_out_is_not_looked_at(): void
    {
        // A patch on the disc goes its own way; cut out, it does not pull.
        $disc = static fn(int $f): Matrix => Matrix::move(0.9 * $f, 0.4 * $f);
        $texture = new MovingTexture($disc);
        $source = new Painted(static function (int $f, float $x, float $y) use ($texture): array {
            $own = abs($x - 120 + 2.2 * $f) < 26 && abs($y - 70) < 22;
            $v = $own ? 0.5 + 0.3 * sin($x * 0.9 + 2 * $f) * cos($y * 0.8) : $texture->place($f, $x, $y);

            return [$v, $v, $v];
        });
        $hole = ['id' => 's2', 'kind' => 'box', 'join' => 'cut', 'centre' => [0.69, 0.44], 'radii' => [0.24, 0.17]];
        $steps = self::follow($source, ['model' => 'position'], 5, [self::disc(), $hole]);
        self::assertLessThan(0.5, self::error($steps[5], $disc(5), 120, 110));
    }

    public function test_a_shape_is_followed_by_its_own_motion(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::move(1.1 * $f, 0);
        $own = [...self::disc(), 'motion' => ['by' => 'follow', 'model' => 'position']];
        $away = ['id' => 's9', 'kind' => 'ellipse', 'centre' => [0.2, 0.2], 'radii' => [0.1, 0.1]];
        $steps = self::follow(new MovingTexture($motion), ['model' => 'similarity'], 6, [$away, $own], 1);
        self::assertLessThan(0.2, self::error($steps[6], $motion(6), 120, 80));
        self::assertEqualsWithDelta(1.0, $steps[6]->matrix->scale(), 1e-12);
    }

    public function test_each_model_has_its_follower_and_a_path_is_asked_for_where_points_are_to_be_followed(): void
    {
        $area = Documents::area(['motion' => ['by' => 'follow', 'model' => 'outline']]);
        $recipe = Documents::read(['areas' => [$area]]);
        try {
            Followers::from(new MovingTexture(static fn(): Matrix => Matrix::identity()), $recipe->areas[0], null, 0, new Motions($recipe, []));
            self::fail('An ellipse has no points.');
        } catch (TooLittleTexture $e) {
            self::assertStringContainsString('Turn the outline into a path', $e->getMessage());
        }
        $area['outline']['shapes'] = [['id' => 'p', 'kind' => 'path', 'points' => [['at' => [0.5, 0.3]], ['at' => [1.0, 0.3]], ['at' => [0.75, 0.8]]]]];
        $recipe = Documents::read(['areas' => [$area]]);
        self::assertInstanceOf(OutlineFollower::class, Followers::from(new MovingTexture(static fn(): Matrix => Matrix::identity()), $recipe->areas[0], null, 0, new Motions($recipe, [])));
    }

    public function test_a_thing_that_changed_its_looks_is_followed_on_from_where_it_was_put_right_by_hand(): void
    {
        $place = static fn(int $f): float => 1.1 * $f + ($f < 5 ? 0 : 40);
        $source = new Painted(static function (int $f, float $x, float $y) use ($place): array {
            $u = $x - $place($f);
            $inside = ($u - 120) ** 2 + ($y - 80) ** 2 < 45 ** 2;
            $texture = $f < 5 ? 0.5 + 0.2 * sin($u * 0.41) * cos($y * 0.37) + 0.1 * cos(0.013 * $u * $y) : 0.4 + 0.2 * cos($u * 0.53 + 2) * sin($y * 0.29 + 1) + 0.1 * sin(0.017 * $u * $y);
            $v = $inside ? $texture : 0.3;

            return [$v, $v, $v];
        });
        $follow = static function (array $keys) use ($source): array {
            $area = Documents::area(['motion' => ['by' => 'follow', 'model' => 'position', 'keys' => $keys, 'pivot' => [0.75, 0.5]]]);
            $area['outline']['shapes'] = [self::disc()];
            $recipe = Documents::read(['areas' => [$area]]);
            $steps = iterator_to_array(Followers::from($source, $recipe->areas[0], null, 0, new Motions($recipe, []))->to(9));
            $track = Track::of(0, Model::Position, [0 => new Step(Matrix::identity(), State::Set, 1.0), ...$steps]);
            $sha = hash('sha256', $track->json());
            $area['motion']['track'] = ['sha256' => $sha];
            $recipe = Documents::read(['areas' => [$area]]);

            return [$steps, new Motions($recipe, [$sha => $track]), $recipe->areas[0]];
        };
        [$steps] = $follow([]);
        self::assertContains($steps[5]->state, [State::Lost, State::Bridged]);

        // Seen to stand still from frame 4 on, the outline is dragged right on frame 5.
        [$steps, $motions, $area] = $follow([['frame' => 4, 'move' => [0, 0]], ['frame' => 5, 'move' => [41.1 / 160, 0]]]);
        self::assertSame([State::Set, State::Followed], [$steps[5]->state, $steps[9]->state]);
        foreach ([3, 5, 7, 9] as $frame) {
            [$x] = $motions->of($area, $frame)->inPixels(160)->apply(120, 80);
            self::assertEqualsWithDelta(120 + $place($frame), $x, 0.5, "frame {$frame}");
        }
    }
}
