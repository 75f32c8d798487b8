<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Parallax;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\ReliefMotion;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Outline\ContourMatte;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Tests\Touch\Scene;
use Cossel\Core\Touch\Sidelight;
use Cossel\Core\Touch\Site;
use PHPUnit\Framework\TestCase;

/** Outlines and light on a surface that turns: a ball of radius 0.3 about (0.5, 0.5), followed from frame 0, turned by 10 degrees a frame. */
final class ParallaxTest extends TestCase
{
    private const TRACK = 'abababababababababababababababababababababababababababababababab';

    private static function ball(float $x, float $y): float
    {
        return sqrt(max(0.0, 0.09 - ($x - 0.5) ** 2 - ($y - 0.5) ** 2));
    }

    private static function relief(): Relief
    {
        return new Relief(0.2, 0.2, 0.6, 0.6, 61, 61, array_merge(...array_map(
            static fn(int $j): array => array_map(static fn(int $i): float => self::ball(0.2 + 0.01 * $i, 0.2 + 0.01 * $j), range(0, 60)),
            range(0, 60),
        )));
    }

    private static function motion(float $degrees): ReliefMotion
    {
        $a = deg2rad($degrees);

        return new ReliefMotion(Matrix::of([cos($a), 0, 0.5 * (1 - cos($a)), 0, 1, 0, 0, 0, 1]), [sin($a), 0.0]);
    }

    private static function track(): Track
    {
        $steps = [];
        for ($f = 0; $f <= 9; ++$f) {
            $motion = self::motion(10 * $f);
            $steps[$f] = new Step($motion->matrix, State::Followed, 1.0, depth: $motion->depth);
        }

        return Track::of(0, Model::Relief, $steps, self::relief());
    }

    /**
     * @param array<string, mixed> $motion
     *
     * @return array{Recipe, Motions}
     */
    private static function head(array $motion = [], int $at = 0): array
    {
        $head = Documents::area(['motion' => ['by' => 'follow', 'model' => 'relief', 'start' => 0, 'span' => [0, 9], 'track' => ['sha256' => self::TRACK], 'pivot' => [0.5, 0.5], ...$motion]]);
        $head['outline'] = ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.5, 0.5], 'radii' => [0.2, 0.2]]]];
        $spot = Documents::area(['id' => 'spot', 'touches' => [], 'motion' => ['by' => 'ride', 'on' => $head['id'], 'pivot' => [0.6, 0.5]]]);
        $spot['outline'] = ['at' => $at, 'shapes' => [['id' => 't', 'kind' => 'ellipse', 'centre' => [0.6, 0.45], 'radii' => [0.03, 0.03]]]];
        $recipe = Documents::read(['areas' => [$head, $spot]]);

        return [$recipe, new Motions($recipe, [self::TRACK => self::track()])];
    }

    public function test_what_rides_on_a_ball_turns_with_it_wherever_it_was_stated(): void
    {
        foreach ([0, 2] as $at) {
            [$recipe, $motions] = self::head([], $at);
            [$x, $y] = [0.6, 0.45];
            $z = self::ball($x, $y);
            // The place in space it is on, by the angle it has there already.
            $angle = atan2($x - 0.5, $z);
            $round = hypot($x - 0.5, $z);
            foreach ([0, 1, 3, 5] as $frame) {
                $turned = $angle + deg2rad(10 * ($frame - $at));
                $pose = $motions->pose($recipe->areas[1], $recipe->areas[1]->outline->shapes[0], $frame);
                [$u, $v] = $pose->apply($x, $y);
                self::assertEqualsWithDelta(0.5 + $round * sin($turned), $u, 2e-3, "{$at} {$frame}");
                self::assertEqualsWithDelta(0.45, $v, 1e-3);
                self::assertEqualsWithDelta([$x, $y], $pose->undo($u, $v), 1e-3);
                // It is as narrow there as the ball makes it.
                [$a, , , , $d] = $pose->affineAt($x, $y)->m;
                self::assertEqualsWithDelta(cos($turned) / cos($angle), $a, 0.03);
                self::assertEqualsWithDelta(1.0, $d, 1e-3);
            }
        }
    }

    public function test_corrections_and_dropped_channels_act_on_top(): void
    {
        [$recipe, $motions] = self::head(['keys' => [['frame' => 3, 'move' => [0.1, -0.05]]]]);
        [$plain, $before] = self::head();
        $shape = $recipe->areas[0]->outline->shapes[0];
        [$x, $y] = $before->pose($plain->areas[0], $shape, 3)->apply(0.55, 0.5);
        self::assertEqualsWithDelta([$x + 0.1, $y - 0.05], $motions->pose($recipe->areas[0], $shape, 3)->apply(0.55, 0.5), 1e-9);
        [$recipe, $motions] = self::head(['use' => ['position', 'rotation', 'scale', 'shear']]);
        self::assertNull($motions->pose($recipe->areas[0], $shape, 3)->parallax);
    }

    public function test_the_far_side_of_an_outline_narrows(): void
    {
        [$recipe, $motions] = self::head();
        $matte = AreaMatte::on($recipe->areas[0], 3, $motions, Rect::of(0, 0, 200, 200))->matte(Rect::of(0, 0, 200, 200));
        // The ball's places 0.2 to the left and right of its middle, turned by 30 degrees.
        $edge = static fn(float $x): float => 200 * (0.5 + 0.3 * sin(asin($x / 0.3) + deg2rad(30)));
        $row = array_slice($matte->v, 100 * 200, 200);
        $inside = array_keys(array_filter($row, static fn(float $v): bool => $v > 0.5));
        self::assertEqualsWithDelta($edge(-0.2), min($inside), 1.2);
        self::assertEqualsWithDelta($edge(0.2), max($inside) + 1, 1.2);
        // The middle of the outline is nearer to the far side than to the near one.
        self::assertGreaterThan($edge(0.2) - $edge(0.0), $edge(0.0) - $edge(-0.2));
    }

    public function test_an_edge_that_turns_out_of_sight_stays_at_the_surfaces_own(): void
    {
        $parallax = new Parallax(self::relief(), tan(deg2rad(60)), 0.0);
        $pose = new Pose(self::motion(60)->matrix, parallax: $parallax);
        // From 30 degrees on places are behind the ball, which ends at 0.8.
        foreach ([0.66, 0.7, 0.75] as $x) {
            [$u] = $pose->motion->apply(...$parallax->seen($x, 0.5));
            self::assertEqualsWithDelta(0.8, $u, 4e-3);
        }
        self::assertLessThan(0.77, $pose->apply(0.76, 0.5)[0]);
        $square = array_map(static fn(array $p): PathPoint => new PathPoint(...$p), [[0.3, 0.35], [0.76, 0.35], [0.76, 0.65], [0.3, 0.65]]);
        $matte = ContourMatte::on(new Path('p', $square, 0.0, 0.0), $pose, 200)->matte(Rect::of(0, 0, 200, 200));
        foreach (range(76, 124, 4) as $y) {
            $row = array_slice($matte->v, $y * 200, 200);
            $inside = array_keys(array_filter($row, static fn(float $v): bool => $v > 0.5));
            self::assertSame(count($inside), max($inside) - min($inside) + 1, "no hole in row {$y}");
        }
    }

    public function test_pictures_along_it_are_not_bent(): void
    {
        foreach ([20, 50] as $degrees) {
            $motion = self::motion($degrees)->then(Matrix::about(0.5, 0.5, 10, 1.2, 1.2));
            $pose = new Pose($motion->matrix, parallax: new Parallax(self::relief(), tan(deg2rad($degrees)), 0.0));
            self::assertEqualsWithDelta(1.2, $pose->size(), 1e-6);
            $upright = $pose->upright(0.5, 0.5);
            self::assertEqualsWithDelta([1.2, 10.0], [$upright->scale(), $upright->turn()], 3.0);
            self::assertEqualsWithDelta(1.2, hypot($upright->m[0], $upright->m[3]), 1e-6);
            self::assertEqualsWithDelta($upright->m[0], $upright->m[4], 1e-9);
            self::assertEqualsWithDelta($pose->apply(0.5, 0.5), $upright->apply(0.5, 0.5), 1e-9);
        }
        $flat = new Pose(Matrix::of([1, 0.2, 0, 0, 0.8, 0, 0, 0, 1]));
        self::assertSame($flat->motion, $flat->upright(0.3, 0.3));
    }

    public function test_what_turns_out_of_sight_fades(): void
    {
        foreach ([[0, 1.0], [40, 1.0], [78, null], [89, 0.0]] as [$degrees, $wanted]) {
            $pose = new Pose(self::motion($degrees)->matrix, parallax: new Parallax(self::relief(), tan(deg2rad($degrees)), 0.0));
            $facing = $pose->facing(0.5, 0.5);
            $wanted === null ? self::assertTrue($facing > 0.1 && $facing < 1.0) : self::assertEqualsWithDelta($wanted, $facing, 1e-3);
        }
        self::assertSame(1.0, Pose::still()->facing(0.5, 0.5));
        [$recipe, $motions] = self::head();
        $at = static fn(int $frame): float => max(AreaMatte::on($recipe->areas[1], $frame, $motions, Rect::of(0, 0, 200, 200))->matte(Rect::of(0, 0, 200, 200))->v);
        self::assertSame(1.0, $at(2));
        self::assertSame(0.0, $at(9));
    }

    /** Light from the right on a ball: where it faces the light, on the ball's own places, however it has turned since. */
    public function test_sidelight_falls_on_the_surface_and_turns_with_it(): void
    {
        $scene = Scene::painted(static fn(): array => [0.4, 0.4, 0.4], [0.3, 0.3]);
        $height = $scene->site->rows();
        $values = ['stops' => 2.0, 'direction' => 0.0, 'position' => 0.0, 'width' => 1.0, 'softness' => 0.0];
        foreach ([0, 30] as $degrees) {
            $motion = self::motion($degrees);
            $surface = new TurnedSurface($motion->matrix, new Parallax(self::relief(), tan(deg2rad($degrees)), 0.0));
            $bounds = Rect::of(0, 0, $height, $height);
            $site = new Site(0, $scene->site->untreated, extent: new Extent(Matrix::identity(), 0.5, 0.5, 0.3, 0.3), bounds: $bounds, surface: $surface);
            $planes = Planes::filled($bounds, 0.4, 0.4, 0.4);
            (new Sidelight())->prepare($values, $site)->apply($planes, Weight::everywhere($bounds, 1.0));
            foreach ([[0.35, 0.5], [0.5, 0.5], [0.62, 0.45], [0.5, 0.7]] as [$x, $y]) {
                [$u, $v] = $motion->apply($x, $y, self::ball($x, $y));
                $t = ($x - 0.5) / 0.3 / 2 + 0.5;
                $light = Transfer::Bt1886->linear($planes->r[(int) ($v * $height) * $height + (int) ($u * $height)]) / Transfer::Bt1886->linear(0.4);
                self::assertEqualsWithDelta(2.0 * $t, log($light, 2), 0.09, "{$degrees} {$x} {$y}");
            }
        }
    }

    public function test_a_feather_is_foreshortened_with_the_surface(): void
    {
        // A plane that leans back: places stand out by as much as they lie to the right, so that a turn narrows them all alike.
        $plane = new Relief(0.0, 0.0, 1.6, 1.0, 33, 21, array_merge(...array_map(static fn(int $row): array => array_map(static fn(int $column): float => 0.05 * $column - 0.8, range(0, 32)), range(0, 20))));
        $share = 0.5;
        $pose = new Pose(Matrix::identity(), parallax: new Parallax($plane, $share - 1.0, 0.0));
        [$left, $right] = array_map(static fn(float $x): float => $pose->apply($x, 0.5)[0], [0.6, 1.0]);
        self::assertEqualsWithDelta(0.4 * $share, $right - $left, 1e-6);
        $box = new Box('s', [0.8, 0.5], [0.2, 0.2], featherIn: 0.05, featherOut: 0.05);
        $rows = 400;
        $bent = ContourMatte::on($box, $pose, $rows)->matte(Rect::of(0, 0, 640, 400));
        $flat = ContourMatte::on($box, Pose::still(), $rows)->matte(Rect::of(0, 0, 640, 400));
        $at = static fn(Grey $matte, float $x, float $y): float => $matte->v[(int) round($y * $rows) * 640 + (int) round($x * $rows)];
        $worst = 0.0;
        for ($k = -24; $k <= 24; ++$k) {
            $off = $k / 400;
            // Along the middle of each side, away from the corners.
            foreach ([[0.6 + $off, 0.5], [1.0 + $off, 0.5], [0.8, 0.3 + $off], [0.8, 0.7 + $off]] as [$x, $y]) {
                [$u, $v] = $pose->apply($x, $y);
                $worst = max($worst, abs($at($flat, $x, $y) - $at($bent, $u, $v)));
            }
        }
        // Half a pixel of the narrowed feather is 0.04 of it.
        self::assertLessThan(0.07, $worst);
    }

    /** Where an edge seen narrow meets one seen wide: by the least distance over what lengths are foreshortened by, at every place of the edge. */
    public function test_feathers_of_edges_that_are_seen_differently_meet_without_a_jump(): void
    {
        $round = array_map(static fn(int $column): float => sqrt(max(0.01, 0.4 - (0.05 * $column - 0.8) ** 2)), range(0, 32));
        $relief = new Relief(0.0, 0.0, 1.6, 1.0, 33, 21, array_merge(...array_fill(0, 21, $round)));
        $pose = new Pose(Matrix::identity(), parallax: new Parallax($relief, 0.9, 0.0));
        $ellipse = new Ellipse('s', [0.8, 0.5], [0.4, 0.35], featherIn: 0.2, featherOut: 0.02);
        [$rows, $columns] = [200, 320];
        $matte = ContourMatte::on($ellipse, $pose, $rows)->matte(Rect::of(0, 0, $columns, $rows));
        $edge = Contour::of($ellipse, $pose, $rows, 0.02);
        self::assertLessThan(0.5, min($edge->across));
        $scale = Contour::scale($ellipse, $pose) * $rows;
        [$in, $out] = [0.2 * $scale, 0.02 * $scale];
        $line = array_map(null, $edge->x, $edge->y);
        $n = count($line);
        $worst = $steepest = 0.0;
        $chance = Chance::seeded(3);
        for ($k = 0; $k < 400; ++$k) {
            [$column, $row] = [(int) $chance->between(60, 300), (int) $chance->between(20, 180)];
            $least = INF;
            foreach ($line as $i => [$x, $y]) {
                [$u, $v] = $line[($i + 1) % $n];
                for ($t = 0.0; $t < 1.0; $t += 0.1) {
                    $apart = hypot($x + ($u - $x) * $t - $column - 0.5, $y + ($v - $y) * $t - $row - 0.5);
                    $least = min($least, $apart / ($edge->across[$i] + ($edge->across[($i + 1) % $n] - $edge->across[$i]) * $t));
                }
            }
            $t = max(0.0, min(1.0, ((Contour::holds($line, $column + 0.5, $row + 0.5) ? -$least : $least) + $in) / ($in + $out)));
            $worst = max($worst, abs($matte->v[$row * $columns + $column] - 1.0 + $t * $t * (3.0 - 2.0 * $t)));
        }
        self::assertLessThan(0.02, $worst);
        for ($i = 0; $i < $columns * ($rows - 1); ++$i) {
            $steepest = max($steepest, abs($matte->v[$i + $columns] - $matte->v[$i]));
        }
        // From row to row nothing is steeper than where the feather is at its narrowest.
        self::assertLessThan(1.6 / min($edge->across) / ($in + $out), $steepest);
    }
}
