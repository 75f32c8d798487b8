<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\FollowedPoint;
use Cossel\Core\Motion\PointSearch;
use Cossel\Core\Motion\Pyramid;
use Cossel\Core\Motion\ReliefMotion;
use Cossel\Core\Motion\Sighting;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\TestCase;

/** Points found again by their looks, and regions sighted further away, in pictures shifted by known amounts. */
final class PointSearchTest extends TestCase
{
    /** A texture shifted by so much. */
    private static function pyramid(float $dx = 0.0, float $dy = 0.0, ?\Closure $spoil = null, bool $once = false): Pyramid
    {
        $v = [];
        for ($y = 0; $y < 160; ++$y) {
            for ($x = 0; $x < 240; ++$x) {
                [$u, $w] = [$x + 0.5 - $dx, $y + 0.5 - $dy];
                $value = 0.5 + 0.12 * sin($u * 0.23) * cos($w * 0.21) + 0.1 * sin($u * 0.13 + $w * 0.17) + 0.06 * cos(0.002 * $u * $w) + 0.1 * sin(0.05 * $u - 0.04 * $w);
                // Nothing that repeats, for what is looked for far off.
                $value = $once ? 0.5 + 0.3 * sin(0.0011 * ($u - 30) ** 2 + 0.0014 * ($w - 20) ** 2) : $value;
                $v[] = $spoil === null ? $value : $spoil($x, $y, $value);
            }
        }

        return Pyramid::of(new Grey(Rect::of(0, 0, 240, 160), $v), PointSearch::LEVELS);
    }

    /** @return list<FollowedPoint> */
    private static function points(Pyramid $pyramid): array
    {
        $points = [];
        foreach ([[60, 50], [90, 70], [120, 60], [140, 90], [100, 100], [70, 95]] as [$x, $y]) {
            $points[] = FollowedPoint::at($x, $y, 0.0, [0.0, 0.0], PointSearch::look($pyramid, $x, $y));
        }

        return $points;
    }

    /** @param list<FollowedPoint> $points */
    private static function expect(array $points, float $x, float $y): void
    {
        foreach ($points as $point) {
            $point->expect(ReliefMotion::still(), $x, $y, false);
        }
    }

    public function test_points_are_found_to_a_fraction_of_a_pixel_from_far_off(): void
    {
        foreach ([[2.3, -1.4], [5.6, 3.2], [-4.5, 5.1]] as [$dx, $dy]) {
            $before = self::pyramid();
            $now = self::pyramid($dx, $dy);
            $points = self::points($before);
            self::expect($points, 0.0, 0.0);
            PointSearch::coarse($points, $now);
            foreach ($points as $point) {
                PointSearch::fine($point, $now, $before);
                self::assertTrue($point->found);
                self::assertEqualsWithDelta($point->fromX + $dx, $point->x, 0.1);
                self::assertEqualsWithDelta($point->fromY + $dy, $point->y, 0.1);
                self::assertGreaterThan(0.85, $point->alike);
            }
        }
    }

    public function test_the_last_motion_says_where_to_begin(): void
    {
        $now = self::pyramid(24.4, -17.2);
        $points = self::points(self::pyramid());
        self::expect($points, 23.0, -16.0);
        PointSearch::coarse($points, $now);
        foreach ($points as $point) {
            PointSearch::fine($point, $now, null);
            self::assertEqualsWithDelta($point->fromX + 24.4, $point->x, 0.1);
            self::assertEqualsWithDelta($point->fromY - 17.2, $point->y, 0.1);
        }
    }

    public function test_a_point_that_is_covered_is_not_found_and_the_others_carry_its_guess(): void
    {
        $now = self::pyramid(6.0, 3.0, static fn(int $x, int $y, float $v): float => hypot($x - 126, $y - 63) < 26 ? 0.4 + 0.2 * ((($x >> 2) + ($y >> 2)) % 2) : $v);
        $points = self::points(self::pyramid());
        self::expect($points, 0.0, 0.0);
        PointSearch::coarse($points, $now);
        self::assertEqualsWithDelta(126.0, $points[2]->x, 2.5);
        PointSearch::fine($points[2], $now, null);
        self::assertFalse($points[2]->found);
        PointSearch::fine($points[4], $now, null);
        self::assertTrue($points[4]->found);
    }

    /** Its look fits in both frames, but going back from the new place leads elsewhere: the point was on something that repeats. */
    public function test_a_point_that_does_not_lead_back_is_not_believed(): void
    {
        $before = self::pyramid();
        $now = self::pyramid(4.0, 2.0);
        foreach ([[0.0, true], [3.0, false]] as [$off, $believed]) {
            $point = self::points($before)[1];
            [$point->x, $point->y] = [$point->fromX + 4.0, $point->fromY + 2.0];
            // Where it is said to have been on the frame before.
            [$point->wasX, $point->wasY] = [$point->fromX + $off, $point->fromY];
            PointSearch::fine($point, $now, $before);
            self::assertSame($believed, $point->found, (string) $off);
        }
        // After a gap there is no frame before to ask.
        $point = self::points($before)[1];
        [$point->x, $point->y, $point->wasX, $point->wasY] = [$point->fromX + 4.0, $point->fromY + 2.0, $point->fromX + 3.0, $point->fromY];
        PointSearch::fine($point, $now, null);
        self::assertTrue($point->found);
    }

    /** What drifted while its look was renewed is drawn back to the first look as soon as that fits again. */
    public function test_the_first_look_is_taken_up_again_where_it_fits(): void
    {
        $first = self::pyramid();
        $now = self::pyramid(5.0, 0.0);
        $point = self::points($first)[1];
        $drifted = PointSearch::look($first, $point->fromX + 0.8, $point->fromY);
        [$point->look, $point->renewed] = [$drifted, true];
        [$point->x, $point->y] = [$point->fromX + 5.0, $point->fromY];
        PointSearch::fine($point, $now, null);
        self::assertEqualsWithDelta($point->fromX + 5.0, $point->x, 0.06);
        self::assertFalse($point->renewed);
        self::assertSame($point->first, $point->look);
    }

    public function test_a_lost_region_is_sighted_by_its_shift_also_in_another_light(): void
    {
        $mask = new Grey(Rect::of(60, 40, 80, 60), array_fill(0, 80 * 60, 1.0));
        $before = self::pyramid(once: true);
        foreach ([[36.0, 20.0], [-28.0, 16.0]] as [$dx, $dy]) {
            $now = self::pyramid($dx, $dy, static fn(int $x, int $y, float $v): float => 0.15 + 0.6 * $v, true);
            $shift = Sighting::shift($mask, $before, Matrix::identity(), $now, 60);
            self::assertNotNull($shift);
            self::assertEqualsWithDelta($dx, $shift[0], 4.0);
            self::assertEqualsWithDelta($dy, $shift[1], 4.0);
        }
    }

    public function test_what_is_gone_is_not_sighted(): void
    {
        $mask = new Grey(Rect::of(60, 40, 80, 60), array_fill(0, 80 * 60, 1.0));
        $flat = self::pyramid(0.0, 0.0, static fn(): float => 0.5);
        self::assertNull(Sighting::shift($mask, self::pyramid(), Matrix::identity(), $flat, 40));
        // Something else in its place resembles it a little everywhere.
        self::assertNull(Sighting::shift($mask, self::pyramid(once: true), Matrix::identity(), self::pyramid(), 20));
    }
}
