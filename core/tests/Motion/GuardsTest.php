<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Features;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisFollower;
use Cossel\Core\Motion\OutlineFollower;
use Cossel\Core\Motion\RegionFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

/** What keeps followers from believing what they must not, and from losing what they could have kept. */
final class GuardsTest extends TestCase
{
    /** @return array<int, Step> */
    private static function follow(FrameSource $source, int $to, float $radius = 0.27): array
    {
        $region = Still::matte(new Outline(0, [new Ellipse('s', [0.75, 0.5], [$radius, $radius])]), $source->frame());

        return iterator_to_array(RegionFollower::from($source, 0, $region, Model::Similarity)->to($to));
    }

    /** @param \Closure(int, float, float, float): float $change of what is to be seen of a texture that goes to the right */
    private static function changed(\Closure $change): Painted
    {
        $texture = new MovingTexture(static fn(int $f): Matrix => Matrix::move(0.6 * $f, 0));

        return new Painted(static function (int $f, float $x, float $y) use ($texture, $change): array {
            $v = $change($f, $x - 0.6 * $f, $y, $texture->place($f, $x, $y));

            return [$v, $v, $v];
        }, soft: false);
    }

    public function test_what_is_almost_wholly_covered_on_the_very_next_frame_is_not_followed_by_what_is_left(): void
    {
        // All but a strip of it goes behind something plain at once.
        $source = self::changed(static fn(int $f, float $x, float $y, float $v): float => $f >= 1 && $x < 146 ? 0.31 : $v);
        $steps = self::follow($source, 3);
        self::assertSame([State::Lost, State::Lost], [$steps[1]->state, $steps[2]->state]);
    }

    public function test_what_goes_behind_something_by_more_than_half_at_once_is_not_followed_by_the_rest(): void
    {
        $source = self::changed(static fn(int $f, float $x, float $y, float $v): float => $f >= 6 && $f <= 7 && $x < 126 ? 0.31 : $v);
        $steps = self::follow($source, 9);
        self::assertSame([State::Followed, State::Bridged, State::Bridged, State::Followed], array_map(static fn(int $f): State => $steps[$f]->state, [5, 6, 7, 9]));
    }

    public function test_confidence_falls_where_it_looks_unlike_itself(): void
    {
        // On one frame another pattern lies over it and goes along; every point is still where it should be.
        $source = self::changed(static fn(int $f, float $x, float $y, float $v): float => $f === 4 ? $v + 0.17 * sin(0.9 * $x + 1.3 * $y) * cos(0.7 * $x - 0.4 * $y) : $v);
        $steps = self::follow($source, 4);
        self::assertSame(State::Followed, $steps[4]->state);
        [$x] = $steps[4]->matrix->inPixels(160)->apply(120, 80);
        self::assertEqualsWithDelta(122.4, $x, 0.5);
        self::assertLessThan(0.75 * $steps[3]->confidence, $steps[4]->confidence);
    }

    public function test_what_changes_its_looks_by_and_by_is_followed_on(): void
    {
        // One texture becomes another over sixty frames.
        $source = self::changed(static function (int $f, float $x, float $y, float $v): float {
            $t = min(1.0, $f / 60);

            return (1 - $t) * $v + $t * (0.5 + 0.14 * sin(0.47 * $x + 0.6 * sin(0.3 * $y)) * cos(0.33 * $y - 0.2 * $x) + 0.08 * cos(0.71 * $y));
        });
        $steps = self::follow($source, 60, 0.16);
        self::assertNotContains(State::Lost, array_map(static fn(Step $step): State => $step->state, $steps));
        [$x, $y] = $steps[60]->matrix->inPixels(160)->apply(120, 80);
        self::assertLessThan(2.0, hypot($x - 156, $y - 80));
    }

    public function test_what_stands_still_for_sixty_frames_does_not_drift_through_changing_light(): void
    {
        $texture = new MovingTexture(static fn(int $f): Matrix => Matrix::move(4 * sin(0.3 * $f), 2 * sin(0.23 * $f)), static fn(int $f): float => 1 - 0.3 * sin(0.1 * $f) ** 2);
        $last = self::follow($texture, 60, 0.16)[60];
        [$x, $y] = $last->matrix->inPixels(160)->apply(120, 80);
        self::assertLessThan(0.25, hypot($x - 120 - 4 * sin(18), $y - 80 - 2 * sin(13.8)));
    }

    public function test_features_are_corners_apart_from_each_other_not_edges(): void
    {
        $rect = Rect::of(0, 0, 90, 60);
        $v = [];
        for ($y = 0; $y < 60; ++$y) {
            for ($x = 0; $x < 90; ++$x) {
                // A strong straight edge on the left, a soft texture on the right.
                $v[] = $x < 20 ? 0.1 : ($x < 45 ? 0.9 : 0.5 + 0.06 * sin(0.9 * $x) * cos(0.8 * $y));
            }
        }
        $found = Features::find(new Grey($rect, $v), Grey::filled(Rect::of(0, 0, 90, 60), 1.0)->window(Rect::of(0, 0, 90, 60)), 6.0, 60);
        self::assertGreaterThan(10, count($found));
        foreach ($found as $i => [$x, $y]) {
            self::assertGreaterThan(40.0, $x);
            foreach (array_slice($found, $i + 1) as [$ox, $oy]) {
                self::assertGreaterThanOrEqual(6.0, hypot($ox - $x, $oy - $y));
            }
        }
    }

    public function test_openness_is_told_against_that_of_the_start_frame(): void
    {
        // Lids that cover a good part of the iris from the beginning, and a little more later.
        $source = new Painted(static function (int $f, float $x, float $y): array {
            $d = hypot($x - 110, $y - 80);
            $lid = abs($y - 80) < ($f < 2 ? 13 : 9) && (($x - 110) / 66) ** 2 + (($y - 80) / 40) ** 2 < 1;

            return match (true) {
                !$lid => [0.78 + 0.02 * sin($x * 0.3), 0.62, 0.55],
                $d < 9 => [0.04, 0.04, 0.05],
                $d < 24 => [0.32 + 0.05 * sin(9 * atan2($y - 80, $x - 110)), 0.22, 0.12],
                default => [0.86, 0.86, 0.85],
            };
        });
        $circle = Still::matte(new Outline(0, [new Ellipse('s', [110 / 160, 0.5], [24 / 160, 24 / 160])]), $source->frame());
        $steps = iterator_to_array(IrisFollower::from($source, 0, $circle)->to(3));
        self::assertEqualsWithDelta(1.0, $steps[1]->open, 0.05);
        self::assertEqualsWithDelta(9 / 13, $steps[3]->open, 0.12);
    }

    public function test_a_piece_of_an_outline_that_is_not_seen_goes_along_with_its_neighbours(): void
    {
        // A blob that grows; to the right there is no edge to be seen any more.
        $source = new Painted(static function (int $f, float $x, float $y): array {
            $inside = hypot($x - 110, $y - 80) < 34 + 1.4 * $f || ($f > 0 && $x > 110 && abs(atan2($y - 80, $x - 110)) < 0.5);
            $grain = 0.01 * sin($x * 1.7 + $y * 2.9);

            return $inside ? [0.62 + $grain, 0.35 + $grain, 0.36] : [0.45 + $grain, 0.40 + $grain, 0.36];
        });
        $points = [];
        for ($k = 0; $k < 16; ++$k) {
            [$c, $s] = [cos(2 * M_PI * $k / 16), sin(2 * M_PI * $k / 16)];
            $points[] = new PathPoint((110 + 34 * $c) / 160, (80 + 34 * $s) / 160, 4.5 * $s / 160, -4.5 * $c / 160, -4.5 * $s / 160, 4.5 * $c / 160);
        }
        $last = iterator_to_array(OutlineFollower::from($source, 0, new Path('s', $points), Pose::still())->to(6))[6];
        foreach ($last->points ?? [] as $k => $p) {
            $radius = hypot(160 * $p->x - 110, 160 * $p->y - 80);
            if ($k < 2 || $k > 14) {
                self::assertGreaterThan(35.5, $radius, "point {$k}");
                self::assertLessThan(44.0, $radius, "point {$k}");
            } else {
                self::assertEqualsWithDelta(42.4, $radius, 1.5, "point {$k}");
            }
        }
    }
}
