<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Motion\IrisLook;
use Cossel\Core\Motion\RoundEdges;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\TestCase;

/** The two round edges of an iris on painted eyes whose circles are known. */
final class RoundEdgesTest extends TestCase
{
    private const WHITE = [0.72, 0.70, 0.68];
    private const IRIS = [0.30, 0.38, 0.26];
    private const PUPIL = [0.04, 0.04, 0.04];
    private const SKIN = [0.62, 0.42, 0.34];

    /** @param float $lid height of the upper lid's edge over the middle, in radii */
    private static function eye(float $x, float $y, float $radius, float $pupil, float $lid = 9.0): Planes
    {
        $source = new Painted(static fn(int $f, float $u, float $v): array => match (true) {
            $v < $y - $lid * $radius, abs($v - $y) > 1.4 * $radius => self::SKIN,
            hypot($u - $x, $v - $y) < $pupil => self::PUPIL,
            hypot($u - $x, $v - $y) < $radius => self::IRIS,
            default => self::WHITE,
        });

        return $source->colour(0, Rect::of(0, 0, 240, 160));
    }

    private static function luma(Planes $planes): Grey
    {
        return new Grey($planes->rect, array_map(static fn(float $r, float $g, float $b): float => 0.2126 * $r + 0.7152 * $g + 0.0722 * $b, $planes->r, $planes->g, $planes->b));
    }

    public function test_both_circles_are_found_to_a_fraction_of_a_pixel(): void
    {
        foreach ([[120.3, 80.6, 24.0, 10.0], [90.0, 70.25, 18.5, 6.2], [131.7, 85.0, 33.0, 14.5]] as [$x, $y, $radius, $pupil]) {
            $found = RoundEdges::about(self::luma(self::eye($x, $y, $radius, $pupil)), $x + 3, $y - 2, 1.05 * $radius, 0.25 * $radius, 0.3);
            self::assertNotNull($found);
            [$circle, $white, $dark] = $found;
            foreach ([$x, $y, $radius, $pupil] as $i => $true) {
                self::assertEqualsWithDelta($true, $circle[$i], 0.25, "{$i} of {$x}, {$y}");
            }
            self::assertGreaterThan(0.9, $white);
            self::assertGreaterThan(0.9, $dark);
        }
    }

    public function test_a_lid_over_the_upper_half_does_not_move_it(): void
    {
        $found = RoundEdges::about(self::luma(self::eye(120.3, 80.6, 24.0, 10.0, 0.55)), 121, 80, 24, 5, 0.3);
        self::assertNotNull($found);
        self::assertEqualsWithDelta(120.3, $found[0][0], 0.4);
        self::assertEqualsWithDelta(24.0, $found[0][2], 0.5);
    }

    public function test_nothing_round_is_not_found(): void
    {
        $flat = new Grey(Rect::of(0, 0, 240, 160), array_fill(0, 240 * 160, 0.4));
        $found = RoundEdges::about($flat, 120, 80, 24, 5, 0.3);
        self::assertTrue($found === null || $found[1] + $found[2] < 0.2);
    }

    public function test_the_step_at_a_ring_is_how_much_lighter_it_is_outside(): void
    {
        $luma = self::luma(self::eye(120, 80, 24, 10));
        $of = static fn(array $c): float => 0.2126 * $c[0] + 0.7152 * $c[1] + 0.0722 * $c[2];
        self::assertEqualsWithDelta($of(self::WHITE) - $of(self::IRIS), RoundEdges::ringStep($luma, 120, 80, 24), 1e-9);
        self::assertEqualsWithDelta(0.0, RoundEdges::ringStep($luma, 120, 80, 16), 1e-9);
    }

    public function test_the_fit_on_which_more_rays_agree_is_better(): void
    {
        $a = [[1.0, 1.0, 5.0, 2.0], 0.5, 0.4];
        $b = [[2.0, 2.0, 5.0, 2.0], 0.6, 0.4];
        self::assertSame($b, RoundEdges::better($a, $b));
        self::assertSame($b, RoundEdges::better($b, $a));
        self::assertSame($a, RoundEdges::better($a, null));
        self::assertSame($b, RoundEdges::better(null, $b));
    }

    public function test_what_looks_like_iris_is_told_from_skin_in_any_light(): void
    {
        $open = self::eye(120, 80, 24, 10);
        $circle = [120.0, 80.0, 24.0, 10.0];
        $look = IrisLook::learnt($open, $circle);
        self::assertGreaterThan(0.95, IrisLook::covered($look->likeness($open, $circle), $circle));
        $dimmed = self::eye(120, 80, 24, 10, -0.1);
        foreach (['r', 'g', 'b'] as $plane) {
            $dimmed->{$plane} = array_map(static fn(float $v): float => 0.8 * $v, $dimmed->{$plane});
        }
        $covered = IrisLook::covered($look->likeness($dimmed, $circle), $circle);
        self::assertGreaterThan(0.3, $covered);
        self::assertLessThan(0.6, $covered);
        $shut = self::eye(120, 80, 24, 10, -1.4);
        self::assertLessThan(0.05, IrisLook::covered($look->likeness($shut, $circle), $circle));
    }
}
