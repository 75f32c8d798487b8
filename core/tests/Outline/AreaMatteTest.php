<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Outline\AreaMattes;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

final class AreaMatteTest extends TestCase
{
    private static function ellipse(float $x, Join $join, float $opacity = 1.0): Ellipse
    {
        return new Ellipse('s', [$x, 0.5], [0.2, 0.2], 0, 0.05, 0.05, 0, $opacity, $join);
    }

    public function test_shapes_join_as_the_formulas_say(): void
    {
        $frame = Rect::of(0, 0, 160, 100);
        $matte = static fn(Ellipse ...$shapes): array => Still::matte(new Outline(0, array_values($shapes)), $frame)->matte($frame)->v;
        $a = $matte(self::ellipse(0.7, Join::Add));
        $b = $matte(self::ellipse(0.9, Join::Add, 0.8));
        $added = $matte(self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Add, 0.8));
        $cut = $matte(self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Cut, 0.8));
        $kept = $matte(self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Keep, 0.8));
        foreach ($a as $i => $v) {
            self::assertEqualsWithDelta(1 - (1 - $v) * (1 - $b[$i]), $added[$i], 1e-12);
            self::assertEqualsWithDelta($v * (1 - $b[$i]), $cut[$i], 1e-12);
            self::assertEqualsWithDelta($v * $b[$i], $kept[$i], 1e-12);
        }
    }

    public function test_an_inverted_outline_reaches_over_the_whole_frame(): void
    {
        $frame = Rect::of(0, 0, 160, 100);
        $matte = Still::matte(new Outline(0, [self::ellipse(0.8, Join::Add)], true), $frame);
        self::assertTrue($matte->bounds()->equals($frame));
        self::assertSame(1.0, $matte->matte($frame)->at(0, 0));
        self::assertSame(0.0, $matte->matte($frame)->at(80, 50));
    }

    public function test_an_area_that_is_the_whole_frame_by_its_pick_stands_in_as_a_shape_as_the_whole_frame(): void
    {
        $all = ['id' => 'all', 'name' => 'All', 'outline' => ['at' => 0, 'shapes' => []], 'live' => ['from' => 0, 'to' => 83], 'pick' => ['light' => [0.2, 0.8, 0.1]]];
        $face = Documents::area();
        $face['outline']['shapes'][] = ['id' => 's9', 'kind' => 'area', 'of' => 'all', 'join' => 'keep'];
        $recipe = Documents::read(['areas' => [$all, $face]]);
        $alone = Documents::read(['areas' => [Documents::area()]]);
        $frame = Rect::of(0, 0, 160, 90);
        self::assertSame(
            AreaMatte::on($alone->areas[0], 0, new Motions($alone, []), $frame)->matte($frame)->v,
            AreaMatte::on($recipe->areas[1], 0, new Motions($recipe, []), $frame)->matte($frame)->v,
        );
    }

    public function test_what_is_cut_out_does_not_change_where_the_matte_may_be(): void
    {
        $frame = Rect::of(0, 0, 160, 100);
        $whole = Still::matte(new Outline(0, [self::ellipse(0.7, Join::Add)]), $frame);
        $cut = Still::matte(new Outline(0, [self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Cut)]), $frame);
        self::assertTrue($cut->bounds()->equals($whole->bounds()));
        $kept = Still::matte(new Outline(0, [self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Keep)]), $frame);
        self::assertLessThan($whole->bounds()->width, $kept->bounds()->width);
    }

    public function test_areas_made_of_each_other_are_worked_out_and_drawn_once_each(): void
    {
        $frame = Rect::of(0, 0, 32, 18);
        $areas = [Documents::area(['id' => 'a0'])];
        for ($i = 1; $i <= 14; ++$i) {
            $twice = array_map(static fn(string $k): array => ['id' => "{$k}{$i}", 'kind' => 'area', 'of' => 'a' . ($i - 1), 'opacity' => 0.1], ['x', 'y']);
            $areas[] = Documents::area(['id' => "a{$i}", 'touches' => [], 'outline' => ['at' => 0, 'shapes' => $twice]]);
        }
        $recipe = Documents::read(['areas' => $areas]);
        $poses = new class (new Motions($recipe, [])) implements Poses {
            public int $asked = 0;

            public function __construct(private readonly Motions $motions) {}

            public function pose(Area $area, Shape $shape, int $frame): Pose
            {
                ++$this->asked;

                return $this->motions->pose($area, $shape, $frame);
            }

            public function people(Area $area, People $shape, int $frame): ?PeopleMatte
            {
                return null;
            }

            public function area(string $id): Area
            {
                return $this->motions->area($id);
            }
        };
        $matte = (new AreaMattes(0, $poses, $frame))->of($recipe->area('a14'));
        self::assertFalse($matte->bounds()->isEmpty());
        $v = $matte->matte($frame)->v;
        self::assertSame(1, $poses->asked);
        $piece = Rect::of(8, 4, 9, 7);
        self::assertSame((new Grey($frame, $v))->window($piece)->v, $matte->matte($piece)->v);
        $wanted = AreaMatte::on($recipe->area('a0'), 0, $poses, $frame)->matte($frame)->v;
        for ($i = 1; $i <= 14; ++$i) {
            $wanted = array_map(static fn(float $m): float => 1 - (1 - 0.1 * $m) ** 2, $wanted);
        }
        foreach ($wanted as $i => $m) {
            self::assertEqualsWithDelta($m, $v[$i], 1e-12);
        }
        // Twice of all, each the first time it is met: what it costs does not double from area to area.
        self::assertLessThan(1000.0, (new AreaMattes(0, $poses, $frame))->of($recipe->area('a14'))->price());
    }
}
