<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\EllipseMatte;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class EllipseMatteTest extends TestCase
{
    /** Distance to the ellipse by walking round it in tiny steps: no idea in common with the way that is tested. */
    private static function bruteDistance(float $a, float $b, float $u, float $v): float
    {
        $best = INF;
        for ($t = 0; $t < 7200; ++$t) {
            $angle = $t * M_PI / 3600;
            $best = min($best, ($a * cos($angle) - $u) ** 2 + ($b * sin($angle) - $v) ** 2);
        }
        $inside = ($u / $a) ** 2 + ($v / $b) ** 2 < 1;

        return $inside ? -sqrt($best) : sqrt($best);
    }

    public function test_the_matte_agrees_with_a_brute_force_distance_on_random_ellipses(): void
    {
        $random = Chance::seeded(11);
        $height = 90;
        $frame = Rect::of(0, 0, 160, $height);
        $worst = 0.0;
        for ($try = 0; $try < 20; ++$try) {
            $radii = [$random->between(0.02, 0.5), $random->between(0.02, 0.5)];
            $ellipse = new Ellipse('s', [$random->between(0.2, 1.5), $random->between(0.2, 0.8)], $radii, $random->between(-180, 180), $random->between(0, 0.2), $random->between(0, 0.2), $random->between(-0.01, 0.1), $random->between(0.3, 1));
            $matte = EllipseMatte::on($ellipse, Matrix::identity(), $height)->matte($frame);
            $cos = cos(deg2rad($ellipse->turn));
            $sin = sin(deg2rad($ellipse->turn));
            $in = $ellipse->featherIn * $height;
            $out = $ellipse->featherOut * $height;
            if ($in + $out < 1) {
                [$in, $out] = [$in + (1 - $in - $out) / 2, $out + (1 - $in - $out) / 2];
            }
            for ($k = 0; $k < 30; ++$k) {
                $x = $random->whole(0, 159);
                $y = $random->whole(0, $height - 1);
                $dx = $x + 0.5 - $ellipse->centre[0] * $height;
                $dy = $y + 0.5 - $ellipse->centre[1] * $height;
                $d = self::bruteDistance($radii[0] * $height, $radii[1] * $height, $dx * $cos + $dy * $sin, $dy * $cos - $dx * $sin) - $ellipse->grow * $height;
                $t = max(0.0, min(1.0, ($d + $in) / ($in + $out)));
                $worst = max($worst, abs($ellipse->opacity * (1 - $t * $t * (3 - 2 * $t)) - $matte->at($x, $y)));
            }
        }
        self::assertLessThan(1 / 255, $worst);
    }

    /** Distance to the ellipse by bisection of D. Eberly's equation: slow and sure. */
    private static function distance(float $a, float $b, float $u, float $v): float
    {
        if ($a < $b) {
            [$a, $b, $u, $v] = [$b, $a, $v, $u];
        }
        [$x, $y] = [abs($u) / $a, max(1e-12, abs($v) / $b)];
        $r = ($a / $b) ** 2;
        $low = $y;
        $high = hypot($r * $x, $y) + 1e-9;
        for ($step = 0; $step < 80; ++$step) {
            $w = ($low + $high) / 2;
            if (($r * $x / ($w + $r - 1)) ** 2 + ($y / $w) ** 2 > 1) {
                $low = $w;
            } else {
                $high = $w;
            }
        }

        return hypot($a * ($r * $x / ($low + $r - 1) - $x), $b * ($y / $low - $y)) * ($x * $x + $y * $y < 1 ? -1 : 1);
    }

    public function test_whole_mattes_of_any_ratio_turn_feather_and_rectangle_agree_with_bisection(): void
    {
        $random = Chance::seeded(31);
        $height = 90;
        $worst = $steepest = 0.0;
        for ($try = 0; $try < 90; ++$try) {
            // From circles to thirty times as long as wide, as teeth, brows and necks are.
            $long = $random->between(0.05, 0.6);
            $radii = [$long, $long / 30 ** $random->between(0, 1)];
            $ellipse = new Ellipse('s', [$random->between(0.2, 1.5), $random->between(0.2, 0.8)], $try % 2 === 0 ? $radii : array_reverse($radii), $random->between(-180, 180), $try % 3 === 0 ? 0.0 : $random->between(0, 0.1), $try % 4 === 0 ? 0.0 : $random->between(0, 0.15), $random->between(-0.01, 0.05), $random->between(0.3, 1));
            $rect = Rect::of($random->whole(0, 60), $random->whole(0, 30), $random->whole(20, 90), $random->whole(10, 50));
            $matte = EllipseMatte::on($ellipse, Matrix::identity(), $height)->matte($rect);
            [$cos, $sin] = [cos(deg2rad($ellipse->turn)), sin(deg2rad($ellipse->turn))];
            [$in, $out] = [$ellipse->featherIn * $height, $ellipse->featherOut * $height];
            if ($in + $out < 1) {
                [$in, $out] = [$in + (1 - $in - $out) / 2, $out + (1 - $in - $out) / 2];
            }
            foreach ($matte->v as $i => $m) {
                $dx = $rect->x + $i % $rect->width + 0.5 - $ellipse->centre[0] * $height;
                $dy = $rect->y + intdiv($i, $rect->width) + 0.5 - $ellipse->centre[1] * $height;
                $d = self::distance($ellipse->radii[0] * $height, $ellipse->radii[1] * $height, $dx * $cos + $dy * $sin, $dy * $cos - $dx * $sin) - $ellipse->grow * $height;
                $t = max(0.0, min(1.0, ($d + $in) / ($in + $out)));
                $worst = max($worst, abs($ellipse->opacity * (1 - $t * $t * (3 - 2 * $t)) - $m));
                // A distance changes by at most a pixel from pixel to pixel, the step made of it by 1.5 over the feather.
                if ($i % $rect->width > 0) {
                    $steepest = max($steepest, abs($m - $matte->v[$i - 1]) * ($in + $out) / (1.5 * $ellipse->opacity));
                }
            }
        }
        self::assertLessThan(1e-4, $worst);
        self::assertLessThan(1 + 1e-3, $steepest);
    }

    public function test_a_hard_edge_covers_its_true_area(): void
    {
        $ellipse = new Ellipse('s', [0.8, 0.5], [0.31, 0.17], 33);
        $matte = EllipseMatte::on($ellipse, Matrix::identity(), 200)->matte(Rect::of(0, 0, 320, 200));
        self::assertEqualsWithDelta(M_PI * 62 * 34, array_sum($matte->v), M_PI * 62 * 34 * 0.002);
    }

    public function test_nothing_lies_outside_the_bounds(): void
    {
        $ellipse = new Ellipse('s', [0.8, 0.5], [0.2, 0.1], 20, 0.02, 0.06, 0.01);
        $placed = EllipseMatte::on($ellipse, Matrix::identity(), 100);
        $matte = $placed->matte(Rect::of(0, 0, 160, 100));
        $bounds = $placed->bounds();
        foreach ($matte->v as $i => $v) {
            $inside = $bounds->contains(Rect::of($i % 160, intdiv($i, 160), 1, 1));
            self::assertTrue($inside || $v === 0.0);
        }
        self::assertGreaterThan(0.0, max($matte->v));
    }

    public function test_it_moves_turns_and_scales_with_its_motion_and_so_does_its_feather(): void
    {
        $ellipse = new Ellipse('s', [0.5, 0.4], [0.2, 0.1], 15, 0.02, 0.04);
        $motion = Matrix::about(0.5, 0.4, 25, 1.5, 1.5, 0.2, 0.1);
        $moved = EllipseMatte::on($ellipse, $motion, 100)->matte(Rect::of(0, 0, 160, 100));
        $stated = new Ellipse('s', [0.7, 0.5], [0.3, 0.15], 40, 0.03, 0.06);
        $same = EllipseMatte::on($stated, Matrix::identity(), 100)->matte(Rect::of(0, 0, 160, 100));
        foreach ($same->v as $i => $v) {
            self::assertEqualsWithDelta($v, $moved->v[$i], 1e-3);
        }
    }

    public function test_a_sheared_ellipse_is_still_the_image_of_the_unit_circle(): void
    {
        $ellipse = new Ellipse('s', [0.8, 0.5], [0.2, 0.1], 30);
        $shear = Matrix::of([1.1, 0.4, -0.28, -0.1, 0.9, 0.13, 0, 0, 1]);
        $matte = EllipseMatte::on($ellipse, $shear, 200)->matte(Rect::of(0, 0, 320, 200));
        $back = $shear->inverse();
        $wrong = 0;
        for ($y = 0; $y < 200; ++$y) {
            for ($x = 0; $x < 320; ++$x) {
                [$u, $v] = $back->apply(($x + 0.5) / 200, ($y + 0.5) / 200);
                $c = cos(deg2rad(30));
                $s = sin(deg2rad(30));
                $inside = ((($u - 0.8) * $c + ($v - 0.5) * $s) / 0.2) ** 2 + ((($v - 0.5) * $c - ($u - 0.8) * $s) / 0.1) ** 2 < 1;
                $wrong += $inside !== ($matte->at($x, $y) > 0.5) ? 1 : 0;
            }
        }
        self::assertLessThan(12, $wrong);
    }
}
