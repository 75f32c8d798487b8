<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Propose;

use Cossel\Core\Colour\WhitePoint;
use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Propose\Cover;
use Cossel\Core\Propose\OtherEye;
use Cossel\Core\Propose\Pairing;
use Cossel\Core\Propose\WhiteBalance;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

/** Whites, covering patches and other eyes, found where they were put. */
final class FindingTest extends TestCase
{
    public function test_the_balance_undoes_a_cast(): void
    {
        foreach ([[30.0, -8.0], [-40.0, 12.0], [5.0, 0.0], [0.0, 0.0]] as [$mired, $tint]) {
            // Grey lit by another white; the balance goes the other way.
            $m = WhitePoint::change($mired, $tint);
            $grey = [$m[0] + $m[1] + $m[2], $m[3] + $m[4] + $m[5], $m[6] + $m[7] + $m[8]];
            [$back, $tintBack] = WhiteBalance::of(array_map(static fn(float $v): float => 0.18 * $v, $grey));
            $n = WhitePoint::change($back, $tintBack);
            $out = array_map(static fn(int $r): float => $n[3 * $r] * $grey[0] + $n[3 * $r + 1] * $grey[1] + $n[3 * $r + 2] * $grey[2], [0, 1, 2]);
            self::assertLessThan(0.004, max($out) - min($out), "{$mired} {$tint}");
        }
    }

    public function test_a_spot_is_covered_from_where_it_is_even(): void
    {
        // Skin with fine noise; everything to the left and above is blotched, below on the right it is even.
        $random = Chance::seeded(3);
        $rect = Rect::of(0, 0, 160, 120);
        $planes = Planes::filled($rect, 0.6, 0.45, 0.38);
        for ($y = 0, $i = 0; $y < 120; ++$y) {
            for ($x = 0; $x < 160; ++$x, ++$i) {
                $blotch = $x < 95 || $y < 55 ? 0.06 * sin($x / 2.0) * sin($y / 2.3) : 0.0;
                $spot = hypot($x - 80, $y - 50) < 6 ? -0.2 : 0.0;
                $n = $random->between(-0.004, 0.004);
                $planes->r[$i] += $blotch + $n;
                $planes->g[$i] += $blotch + $spot + $n;
                $planes->b[$i] += $blotch + $spot + $n;
            }
        }
        $extent = new Extent(Matrix::identity(), 80 / 120, 50 / 120, 7 / 120, 7 / 120);
        $matte = Grey::filled(Rect::of(73, 43, 15, 15), 1.0);
        [$dx, $dy] = Cover::of($planes, $matte, $extent, 120);
        self::assertGreaterThan(95 + 7, 80 + $dx * 120);
        self::assertGreaterThan(55 + 7, 50 + $dy * 120);
        // Where the area has turned, the offset is stated in its outline's frame.
        $turned = new Extent(Matrix::about(80 / 120, 50 / 120, 90, 1, 1), 80 / 120, 50 / 120, 7 / 120, 7 / 120);
        [$tx, $ty] = Cover::of($planes, $matte, $turned, 120);
        self::assertEqualsWithDelta([$dy, -$dx], [$tx, $ty], 1e-6);
    }

    public function test_the_other_eye_is_found_where_it_is(): void
    {
        $random = Chance::seeded(5);
        $rect = Rect::of(0, 0, 320, 180);
        $eye = static function (float $x, float $y, int $side): float {
            $r = hypot($x, $y);
            $lid = abs($y) > 14 - 0.012 * ($x * $side + 6) ** 2 ? 0.55 : null;

            return $lid ?? ($r < 4 ? 0.05 : ($r < 10 ? 0.25 + 0.02 * $x * $side : 0.8));
        };
        $v = [];
        for ($y = 0; $y < 180; ++$y) {
            for ($x = 0; $x < 320; ++$x) {
                $left = abs($x - 230) < 30 && abs($y - 80) < 22 ? $eye($x - 230, $y - 80, 1) : null;
                $right = abs($x - 104) < 30 && abs($y - 91) < 22 ? $eye($x - 104, $y - 91, -1) : null;
                $v[] = ($left ?? $right ?? 0.55) + $random->between(-0.02, 0.02);
            }
        }
        $found = OtherEye::of(new Grey($rect, $v), 230.5, 80.5, 10);
        self::assertNotNull($found);
        self::assertLessThan(2.5, hypot($found[0] - 104.5, $found[1] - 91.5));
        $alone = array_map(static fn(): float => 0.55 + $random->between(-0.02, 0.02), $v);
        for ($y = 58; $y < 102; ++$y) {
            for ($x = 200; $x < 260; ++$x) {
                $alone[$y * 320 + $x] = $v[$y * 320 + $x];
            }
        }
        self::assertNull(OtherEye::of(new Grey($rect, $alone), 230.5, 80.5, 10));
    }

    public function test_a_pair_is_the_mirrored_outline_linked(): void
    {
        $area = Documents::area(['id' => 'l', 'name' => 'Left iris', 'blinkGuard' => ['on' => true], 'motion' => ['by' => 'follow', 'model' => 'iris', 'start' => 2, 'span' => [0, 83], 'pivot' => [0.9, 0.5]]]);
        $area['outline']['shapes'] = [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.1, 0.08], 'turn' => 20, 'featherOut' => 0.01], ['id' => 'k', 'kind' => 'path', 'points' => [['at' => [0.8, 0.5]], ['at' => [0.9, 0.4]], ['at' => [1.02, 0.5]]]]];
        $left = Documents::read(['areas' => [$area]])->areas[0];
        $n = 0;
        $other = Pairing::of($left, new Extent(Matrix::about(0.9, 0.5, 0, 2, 2), 0.9, 0.5, 0.1, 0.1), 40, [0.4, 0.6], 'r', static function () use (&$n): string {
            return 'n' . ++$n;
        });
        self::assertSame(['r', 'Right iris', 'l', true, [], true], [$other->id, $other->name, $other->pair?->with, $other->pair?->linked, $other->touches, $other->blinkGuard->on]);
        self::assertSame([Motion::FOLLOW, null, 40], [$other->motion->by, $other->motion->track, $other->motion->start]);
        $ellipse = $other->outline->shapes[0];
        self::assertInstanceOf(Ellipse::class, $ellipse);
        self::assertEqualsWithDelta([0.4, 0.6, 0.2, 0.16, -20], [...$ellipse->centre, ...$ellipse->radii, $ellipse->turn], 1e-9);
        // Twice as large on that frame, and mirrored: what was left of the middle is right of it.
        self::assertEqualsWithDelta([0.6, 0.6], [$other->outline->shapes[1]->points[0]->x, $other->outline->shapes[1]->points[0]->y], 1e-9);
    }
}
