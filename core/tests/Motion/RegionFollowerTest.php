<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Fit;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\RegionFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Motion\Track;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

final class RegionFollowerTest extends TestCase
{
    private static function disc(float $x = 0.75, float $y = 0.5): AreaMatte
    {
        return Still::matte(new Outline(0, [new Ellipse('s', [$x, $y], [0.27, 0.27])]), Rect::of(0, 0, 240, 160));
    }

    private static function motion(): \Closure
    {
        return static fn(int $f): Matrix => Matrix::about(120, 80, 1.1 * $f, 1 + 0.008 * $f, 1 + 0.008 * $f, 1.7 * $f, 0.9 * sin($f * 0.8) * 2);
    }

    /** @return array<int, Step> */
    private static function follow(FrameSource $source, int $to, Model $model = Model::Similarity, int $start = 0): array
    {
        $steps = [];
        foreach (RegionFollower::from($source, $start, self::disc(), $model)->to($to) as $frame => $step) {
            $steps[$frame] = $step;
        }

        return $steps;
    }

    private static function error(Step $step, Matrix $truth): float
    {
        $worst = 0.0;
        foreach ([[90, 60], [150, 60], [120, 110]] as [$x, $y]) {
            [$u, $v] = $step->matrix->inPixels(160)->apply($x, $y);
            [$p, $q] = $truth->apply($x, $y);
            $worst = max($worst, hypot($u - $p, $v - $q));
        }

        return $worst;
    }

    public function test_moving_turning_and_scaling_is_found_to_a_fraction_of_a_pixel(): void
    {
        foreach (self::follow(new MovingTexture(self::motion()), 14) as $frame => $step) {
            self::assertSame(State::Followed, $step->state);
            self::assertLessThan(0.25, self::error($step, (self::motion())($frame)), "frame {$frame}");
            self::assertGreaterThan(0.6, $step->confidence);
        }
    }

    public function test_light_going_down_by_a_stop_does_not_matter(): void
    {
        $steps = self::follow(new MovingTexture(self::motion(), static fn(int $f): float => 2 ** (-$f / 12)), 12);
        self::assertLessThan(0.3, self::error($steps[12], (self::motion())(12)));
    }

    public function test_backwards_is_as_good(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::move(1.5 * ($f - 10), 0.5 * ($f - 10));
        $steps = self::follow(new MovingTexture($motion), 0, Model::Position, 10);
        self::assertSame(range(9, 0), array_keys($steps));
        self::assertLessThan(0.2, self::error($steps[0], $motion(0)));
    }

    public function test_a_covered_region_is_declared_lost_found_again_and_bridged(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::move(0.8 * $f, 0.3 * $f);
        $order = [];
        $steps = [];
        foreach (RegionFollower::from(new MovingTexture($motion, covered: [6, 7, 8]), 0, self::disc(), Model::Similarity)->to(14) as $frame => $step) {
            $order[] = [$frame, $step->state];
            $steps[$frame] = $step;
        }
        self::assertContains([6, State::Lost], $order);
        foreach ([6, 7, 8] as $frame) {
            self::assertSame(State::Bridged, $steps[$frame]->state);
            self::assertSame(0.0, $steps[$frame]->confidence);
            self::assertLessThan(0.5, self::error($steps[$frame], $motion($frame)));
        }
        self::assertSame(State::Followed, $steps[9]->state);
        self::assertLessThan(0.4, self::error($steps[14], $motion(14)));
    }

    public function test_a_flat_region_is_refused_in_words(): void
    {
        $flat = new class implements FrameSource {
            public function frame(): Rect
            {
                return Rect::of(0, 0, 240, 160);
            }

            public function luma(int $frame, Rect $rect): Grey
            {
                return Grey::filled($rect, 0.4);
            }

            public function colour(int $frame, Rect $rect): Planes
            {
                return Planes::filled($rect, 0.4, 0.4, 0.4);
            }
        };
        $this->expectException(TooLittleTexture::class);
        $this->expectExceptionMessage('Make it larger');
        RegionFollower::from($flat, 0, self::disc(), Model::Similarity);
    }

    public function test_an_outline_outside_the_picture_is_refused_in_words(): void
    {
        $this->expectException(TooLittleTexture::class);
        $this->expectExceptionMessage('outside the picture');
        RegionFollower::from(new MovingTexture(self::motion()), 0, self::disc(5, 5), Model::Similarity);
    }

    /** @return list<array{float, float}> */
    private static function places(int $within = 49): array
    {
        $places = [];
        for ($y = -45; $y <= 45; $y += 10) {
            for ($x = -45; $x <= 45; $x += 10) {
                if ($x * $x + $y * $y < $within ** 2) {
                    $places[] = [120.0 + $x, 80.0 + $y];
                }
            }
        }

        return $places;
    }

    /** A ball is no head: what it is taken for in the beginning is put right by how it turns. */
    public function test_a_surface_that_turns_is_learnt_from_both_ways(): void
    {
        $ball = new TurningBall(static fn(int $f): float => 0.06 * ($f - 8) + 0.0);
        $follower = RegionFollower::from($ball, 8, Still::matte(new Outline(0, [new Ellipse('s', [0.75, 0.5], [0.33, 0.33])]), Rect::of(0, 0, 240, 160)), Model::Relief);
        $steps = [];
        foreach ([16, 0] as $last) {
            foreach ($follower->to($last) as $frame => $step) {
                self::assertSame(State::Followed, $step->state, "frame {$frame}");
                $steps[$frame] = $step;
            }
        }
        [$steps, $relief] = $follower->learnt($steps);
        self::assertNotNull($relief);
        $track = Track::beginning(8, Model::Relief)->with(8, Model::Relief, $steps, $relief);
        $sum = 0.0;
        foreach ([0, 4, 12, 16] as $frame) {
            foreach (self::places(36) as [$x, $y]) {
                [$u, $v] = $track->pose($frame)->apply($x / 160, $y / 160);
                [$p, $q] = $ball->place($frame, $x, $y);
                $sum += ($u * 160 - $p) ** 2 + ($v * 160 - $q) ** 2;
            }
        }
        self::assertLessThan(2.0, sqrt($sum / 4 / count(self::places(36))));
    }

    /** What faced the camera in the beginning has turned aside, most of it out of sight. */
    public function test_what_turns_far_is_followed_by_what_turns_into_sight(): void
    {
        $ball = new TurningBall(static fn(int $f): float => 0.07 * $f, static fn(float $p): float => $p > 12 || $p < -38 ? 1.0 : 0.0);
        $region = Still::matte(new Outline(0, [new Ellipse('s', [0.75, 0.5], [0.33, 0.33])]), Rect::of(0, 0, 240, 160));
        $follower = RegionFollower::from($ball, 0, $region, Model::Relief);
        $steps = [];
        foreach ($follower->to(18) as $frame => $step) {
            self::assertSame(State::Followed, $step->state, "frame {$frame}");
            $steps[$frame] = $step;
        }
        [$steps, $relief] = $follower->learnt($steps);
        $track = Track::beginning(0, Model::Relief)->with(0, Model::Relief, $steps, $relief);
        $square = [];
        foreach (self::places(36) as [$x, $y]) {
            // Those that are still seen.
            if ($x < 115) {
                [$u, $v] = $track->pose(18)->apply($x / 160, $y / 160);
                [$p, $q] = $ball->place(18, $x, $y);
                $square[] = ($u * 160 - $p) ** 2 + ($v * 160 - $q) ** 2;
            }
        }
        self::assertLessThan(9.0, sqrt(array_sum($square) / count($square)));
    }

    /** The nearest similarity of a ball's middle, not of the half that happens to agree best. */
    public function test_a_flat_motion_is_the_nearest_to_the_whole_surface(): void
    {
        $ball = new TurningBall(static fn(int $f): float => 0.05 * $f);
        $region = Still::matte(new Outline(0, [new Ellipse('s', [0.75, 0.5], [0.33, 0.33])]), Rect::of(0, 0, 240, 160));
        foreach (RegionFollower::from($ball, 0, $region, Model::Similarity)->to(14) as $frame => $step) {
            $places = array_map(static fn(array $p): array => $ball->place($frame, ...$p), self::places());
            $floor = Fit::least(Model::Similarity, self::places(), $places);
            self::assertNotNull($floor);
            $off = [0.0, 0.0];
            foreach (self::places() as $i => [$x, $y]) {
                foreach ([$step->matrix->inPixels(160), $floor] as $k => $motion) {
                    [$u, $v] = $motion->apply($x, $y);
                    $off[$k] += ($u - $places[$i][0]) ** 2 + ($v - $places[$i][1]) ** 2;
                }
            }
            self::assertLessThan(1.15 * sqrt($off[1]) + 0.6 * sqrt(count($places)), sqrt($off[0]), "frame {$frame}");
        }
    }

    public function test_a_small_spot_with_hardly_any_points_is_followed(): void
    {
        $source = new MovingTexture(static fn(int $f): Matrix => Matrix::move(1.3 * $f, 0.7 * $f));
        foreach ([6, 8, 10] as $radius) {
            $region = Still::matte(new Outline(0, [new Ellipse('s', [120 / 160, 80 / 160], [$radius / 160, $radius / 160])]), Rect::of(0, 0, 240, 160));
            foreach ([Model::Position, Model::Relief] as $model) {
                foreach (RegionFollower::from($source, 0, $region, $model)->to(10) as $frame => $step) {
                    self::assertSame(State::Followed, $step->state, "radius {$radius}, frame {$frame}");
                    [$x, $y] = $step->matrix->inPixels(160)->apply(120, 80);
                    self::assertEqualsWithDelta([120 + 1.3 * $frame, 80 + 0.7 * $frame], [$x, $y], 0.2);
                }
            }
        }
    }
}
