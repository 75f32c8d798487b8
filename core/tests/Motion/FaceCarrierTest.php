<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Ring;
use Cossel\Core\Motion\Beside;
use Cossel\Core\Motion\FaceCarrier;
use Cossel\Core\Motion\Followers;
use Cossel\Core\Motion\IrisFollower;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\OutlineFollower;
use Cossel\Core\Motion\PartMotion;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Recipe\Source;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Face\Meshes;
use PHPUnit\Framework\TestCase;

/** Parts of a face go where its landmarks go on each frame, held to their own edges. */
final class FaceCarrierTest extends TestCase
{
    private const ROWS = 160;
    /** Of the face: its middle and size, picture heights. */
    private const AT = [0.75, 0.5];
    private const SIZE = 0.8;
    private const LAST = 15;

    private static function face(int $f, float $lids = 0.08, float $lips = 0.0, array $gaze = [0.0, 0.0], float $score = 25.0): Mesh
    {
        return Meshes::face(self::AT[0] + 0.01 * $f, self::AT[1], self::SIZE, $lids, $lips, $gaze, $score);
    }

    /** @param \Closure(int): list<Mesh> $faces */
    private static function source(\Closure $faces): FaceSource
    {
        return Meshes::source($faces, [0, self::LAST]);
    }

    private static function area(Part $part, Shape $shape, Model $model): Area
    {
        return new Area('a', 'a', $part->value, null, true, new Outline(0, [$shape]), new Motion(Motion::FOLLOW, 0, [0, self::LAST], $model), new Live(0, self::LAST), new Keyed(1.0), new BlinkGuard(), []);
    }

    private static function motions(Area $area): Motions
    {
        return new Motions(new Recipe(new Source('0', [0, self::LAST], '24', [240, self::ROWS]), areas: [$area]), []);
    }

    /** A path through every second point of a ring. */
    private static function path(Mesh $face, Ring $ring): Path
    {
        $along = $face->along($ring);
        $n = count($along);
        $points = [];
        for ($i = 0; $i < $n; $i += 2) {
            [[$ax, $ay], [$bx, $by]] = [$along[($i + $n - 2) % $n], $along[($i + 2) % $n]];
            $corner = $i % intdiv($n, 2) === 0;
            [$hx, $hy] = $corner ? [0.0, 0.0] : [($bx - $ax) / 6, ($by - $ay) / 6];
            $points[] = new PathPoint($along[$i][0], $along[$i][1], -$hx, -$hy, $hx, $hy);
        }

        return new Path('s', $points);
    }

    /**
     * Red lips of a height about a middle that goes right, pixels; all else skin.
     *
     * @param \Closure(int): float $high none where it is 0
     */
    private static function mouth(\Closure $high): Painted
    {
        return (new Painted(static function (int $f, float $x, float $y) use ($high): array {
            [$cx, $cy] = [self::ROWS * (self::AT[0] + 0.01 * $f), self::ROWS * (self::AT[1] + 0.25 * self::SIZE)];
            $in = (($x - $cx) / (0.15 * self::SIZE * self::ROWS)) ** 2 + (($y - $cy) / max(1e-3, $high($f) / 2)) ** 2 < 1;

            return $in ? [0.5, 0.2, 0.2] : [0.6, 0.45, 0.4];
        }))->kept();
    }

    /** @return array<int, Step> */
    private static function followed(Painted $picture, Area $area, FaceSource $faces): array
    {
        $follower = Followers::from($picture, $area, null, 0, self::motions($area), $faces);
        $steps = iterator_to_array($follower->to(self::LAST));

        return $follower instanceof OutlineFollower || $follower instanceof IrisFollower ? $follower->settled($steps) : $steps;
    }

    /** @return array{float, float} the upper and the lower end of a step's path, pixels */
    private static function ends(Step $step): array
    {
        $ys = array_map(static fn(PathPoint $p): float => $p->y * self::ROWS, $step->points ?? []);

        return [min($ys ?: [0.0]), max($ys ?: [0.0])];
    }

    public function test_places_go_with_the_points_near_them(): void
    {
        $from = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]];
        $whole = PartMotion::between($from, array_map(static fn(array $p): array => [2 * $p[0] + 3, $p[1] - 1], $from));
        self::assertEqualsWithDelta([4.0, -0.5], $whole->apply(0.5, 0.5), 1e-9);
        $p = $whole->point(new PathPoint(0.2, 0.4, -0.1, 0.0, 0.1, 0.2));
        self::assertEqualsWithDelta([3.4, -0.6, -0.2, 0.0, 0.2, 0.2], [$p->x, $p->y, $p->inX, $p->inY, $p->outX, $p->outY], 1e-9);

        // One of many points goes by itself: what is at it goes along, what is far does not.
        $ring = [];
        for ($k = 0; $k < 16; ++$k) {
            $ring[] = [10 * cos(M_PI * $k / 8), 10 * sin(M_PI * $k / 8)];
        }
        $moved = $ring;
        $moved[0] = [14.0, 0.0];
        $one = PartMotion::between($ring, $moved);
        self::assertGreaterThan(11.2, $one->apply(10.0, 0.0)[0]);
        self::assertEqualsWithDelta(-10.0, $one->apply(-10.0, 0.0)[0], 0.4);
        $far = $one->apply(400.0, 0.0)[0];
        $step = ($one->apply(800.0, 0.0)[0] - $far) / 400;
        self::assertEqualsWithDelta($far - 360 * $step, $one->apply(40.0, 0.0)[0], 0.5);
    }

    public function test_lips_open_as_the_landmarks_say_also_where_no_edge_is_seen(): void
    {
        $open = static fn(int $f): float => max(0.0, min(0.25, 0.05 * ($f - 4)));
        $faces = self::source(static fn(int $f): array => [self::face($f, 0.08, $open($f))]);
        $path = self::path(self::face(0), Ring::OuterLips);
        // Not to be told from the skin on all frames after the first.
        $picture = self::mouth(static fn(int $f): float => $f === 0 ? 12.8 : 0.0);
        $steps = self::followed($picture, self::area(Part::Lips, $path, Model::Outline), $faces);
        foreach ($steps as $f => $step) {
            $true = self::path(self::face($f, 0.08, $open($f)), Ring::OuterLips)->points;
            foreach ($step->points ?? [] as $i => $p) {
                self::assertLessThan(0.9, self::ROWS * hypot($p->x - $true[$i]->x, $p->y - $true[$i]->y), "frame {$f}, point {$i}");
            }
            self::assertSame($f === 0 ? State::Set : State::Followed, $step->state);
            self::assertEqualsWithDelta($f === 0 ? 1.0 : 0.6, $step->confidence, 1e-9);
        }
    }

    public function test_where_its_edge_is_seen_an_outline_lies_there_and_not_beside(): void
    {
        $high = static fn(int $f): float => self::ROWS * self::SIZE * (0.1 + 0.01 * min($f, 6));
        // The landmarks open by half as much, and are half a pixel off by chance.
        $chance = Chance::seeded(3);
        $off = array_map(static fn(): array => [$chance->between(-0.5, 0.5) / self::ROWS, $chance->between(-0.5, 0.5) / self::ROWS], range(0, self::LAST));
        $faces = self::source(static fn(int $f): array => [Meshes::face(self::AT[0] + 0.01 * $f + ($f > 0 ? $off[$f][0] : 0.0), self::AT[1] + ($f > 0 ? $off[$f][1] : 0.0), self::SIZE, 0.08, 0.005 * min($f, 6))]);
        $steps = self::followed(self::mouth($high), self::area(Part::Lips, self::path(self::face(0), Ring::OuterLips), Model::Outline), $faces);
        $middle = self::ROWS * (self::AT[1] + 0.25 * self::SIZE);
        foreach ($steps as $f => $step) {
            [$upper, $lower] = self::ends($step);
            self::assertEqualsWithDelta([$middle - $high($f) / 2, $middle + $high($f) / 2], [$upper, $lower], 0.9, "frame {$f}");
        }
        self::assertGreaterThan(0.8, $steps[self::LAST]->confidence);
    }

    public function test_frames_on_which_the_face_is_hidden_are_laid_between_those_beside(): void
    {
        // Neither landmarks nor edges on frames 6 to 9.
        $hidden = static fn(int $f): bool => $f >= 6 && $f < 10;
        $faces = self::source(static fn(int $f): array => $hidden($f) ? [] : [self::face($f)]);
        $lips = self::followed(self::mouth(static fn(int $f): float => $hidden($f) ? 0.0 : 12.8), self::area(Part::Lips, self::path(self::face(0), Ring::OuterLips), Model::Outline), $faces);
        $at = static fn(int $f): array => [self::AT[0] + 0.01 * $f + 0.2 * self::SIZE, self::AT[1] - 0.15 * self::SIZE];
        $eye = (new Painted(static function (int $f, float $x, float $y) use ($at, $hidden): array {
            $d = hypot($x - $at($f)[0] * self::ROWS, $y - $at($f)[1] * self::ROWS);

            return $hidden($f) ? [0.6, 0.5, 0.45] : ($d < 3.5 ? [0.05, 0.05, 0.05] : ($d < 8 ? [0.3, 0.2, 0.1] : [0.85, 0.84, 0.83]));
        }))->kept();
        $iris = self::followed($eye, self::area(Part::Iris, new Ellipse('s', $at(0), [0.05, 0.05]), Model::Iris), $faces);
        foreach ([6, 7, 8, 9] as $f) {
            self::assertSame([State::Bridged, State::Bridged], [$lips[$f]->state, $iris[$f]->state], "frame {$f}");
            $true = self::path(self::face($f), Ring::OuterLips)->points;
            foreach ($lips[$f]->points ?? [] as $i => $p) {
                self::assertLessThan(1.5, self::ROWS * hypot($p->x - $true[$i]->x, $p->y - $true[$i]->y), "frame {$f}, point {$i}");
            }
            self::assertEqualsWithDelta($at($f), $iris[$f]->matrix->apply(...$at(0)), 0.01, "frame {$f}");
        }
    }

    public function test_an_iris_is_followed_on_where_its_face_is_no_longer_seen(): void
    {
        $at = static fn(int $f): array => [self::AT[0] + 0.01 * min($f, 2) + 0.025 * max(0, $f - 2) + 0.2 * self::SIZE, self::AT[1] - 0.15 * self::SIZE];
        $eye = (new Painted(static function (int $f, float $x, float $y) use ($at): array {
            $d = hypot($x - $at($f)[0] * self::ROWS, $y - $at($f)[1] * self::ROWS);

            return $d < 3.5 ? [0.05, 0.05, 0.05] : ($d < 8 ? [0.3, 0.2, 0.1] : [0.85, 0.84, 0.83]);
        }))->kept();
        $faces = self::source(static fn(int $f): array => $f > 2 ? [] : [self::face($f)]);
        $steps = self::followed($eye, self::area(Part::Iris, new Ellipse('s', $at(0), [0.05, 0.05]), Model::Iris), $faces);
        foreach ($steps as $f => $step) {
            self::assertEqualsWithDelta($at($f), $step->matrix->apply(...$at(0)), 0.01, "frame {$f}");
        }
    }

    public function test_what_is_found_beside_is_made_steady_and_laid_over_frames_without(): void
    {
        $chance = Chance::seeded(5);
        $beside = new Beside();
        for ($f = 0; $f < 40; ++$f) {
            $beside->add($f, [1.0 * $f], $f >= 10 && $f < 14 ? null : [$f + 2.0 + $chance->between(-1.0, 1.0)]);
        }
        $settled = $beside->settled();
        $off = array_map(static fn(array $row, int $f): float => $row[0] - $f - 2.0, $settled, array_keys($settled));
        self::assertCount(40, $off);
        self::assertLessThan(0.8, max(array_map(abs(...), array_slice($off, 5, 30))));
        self::assertLessThan(0.4, sqrt(array_sum(array_map(static fn(float $v): float => $v * $v, $off)) / 40));
    }

    public function test_an_iris_keeps_its_place_between_the_corners_while_the_lids_are_closed(): void
    {
        // Shut on frames 6 to 9: the landmarks of the iris fall on the lower lid then.
        $shut = static fn(int $f): bool => $f >= 6 && $f < 10;
        $faces = self::source(static fn(int $f): array => [self::face($f, $shut($f) ? 0.01 : 0.08, 0.0, $shut($f) ? [0.0, 0.06] : [0.002 * $f, 0.0])]);
        $at = static fn(int $f): array => [self::AT[0] + 0.01 * $f + self::SIZE * (0.2 + 0.002 * $f), self::AT[1] - 0.15 * self::SIZE];
        $area = self::area(Part::Iris, new Ellipse('s', $at(0), [0.05, 0.05]), Model::Iris);
        $carrier = FaceCarrier::of($area, $at(0), $faces, 0, null);
        self::assertNotNull($carrier);
        for ($f = 1; $f <= self::LAST; ++$f) {
            [$p] = $carrier->moved([new PathPoint($at(0)[0] * self::ROWS, $at(0)[1] * self::ROWS, 0.0, 0.0, 8.0, 0.0)], 0, $f, self::ROWS);
            self::assertEqualsWithDelta([$at($f)[0] * self::ROWS, $at($f)[1] * self::ROWS], [$p->x, $p->y], 0.7, "frame {$f}");
            self::assertEqualsWithDelta(8.0, hypot($p->outX, $p->outY), 0.1);
            self::assertEqualsWithDelta($shut($f) ? 0.0 : 1.0, $carrier->open($f) ?? -1.0, 1e-6, "frame {$f}");
        }
    }

    public function test_an_iris_of_which_no_edge_is_seen_is_where_the_landmarks_are(): void
    {
        $faces = self::source(static fn(int $f): array => [self::face($f)]);
        $at = static fn(int $f): array => [self::AT[0] + 0.01 * $f + 0.2 * self::SIZE, self::AT[1] - 0.15 * self::SIZE];
        $picture = (new Painted(static function (int $f, float $x, float $y) use ($at): array {
            $d = hypot($x - $at(0)[0] * self::ROWS, $y - $at(0)[1] * self::ROWS);

            return $f > 0 ? [0.6, 0.5, 0.45] : ($d < 3.5 ? [0.05, 0.05, 0.05] : ($d < 8 ? [0.3, 0.2, 0.1] : [0.85, 0.84, 0.83]));
        }))->kept();
        $steps = self::followed($picture, self::area(Part::Iris, new Ellipse('s', $at(0), [0.05, 0.05]), Model::Iris), $faces);
        self::assertSame(State::Followed, $steps[self::LAST]->state);
        self::assertEqualsWithDelta($at(self::LAST), $steps[self::LAST]->matrix->apply(...$at(0)), 0.01);
        self::assertLessThanOrEqual(0.5, $steps[self::LAST]->confidence);
    }

    public function test_teeth_go_and_come_with_the_lips(): void
    {
        $open = static fn(int $f): float => $f < 5 ? 0.1 : ($f < 10 ? 0.0 : 0.06);
        $faces = self::source(static fn(int $f): array => [self::face($f, 0.08, $open($f))]);
        $area = self::area(Part::Teeth, self::path(self::face(0, 0.08, 0.1), Ring::InnerLips), Model::Outline);
        $carrier = FaceCarrier::of($area, [self::AT[0], self::AT[1] + 0.25 * self::SIZE], $faces, 0, null);
        $told = array_map(static fn(int $f): float => $carrier?->open($f) ?? -1.0, [2, 7, 12]);
        self::assertEqualsWithDelta([1.0, 0.0, 1.0], $told, 1e-6);
    }

    public function test_only_an_outline_that_lies_on_the_part_is_carried_by_it(): void
    {
        $faces = self::source(static fn(int $f): array => [self::face($f), Meshes::face(0.2, 0.2, 0.1, 0.05, 0.0, [0.0, 0.0], 9.0)]);
        $lips = self::area(Part::Lips, self::path(self::face(0), Ring::OuterLips), Model::Outline);
        $of = static fn(array $middle): ?FaceCarrier => FaceCarrier::of($lips, $middle, $faces, 0, null);
        self::assertNotNull($of([self::AT[0], self::AT[1] + 0.25 * self::SIZE]));
        self::assertNull($of([self::AT[0] + 0.4, self::AT[1] + 0.25 * self::SIZE]));
        // A mesh that is hardly one is not gone by.
        self::assertNull($of([0.2, 0.225]));
        self::assertTrue(Followers::usesFaces($lips, null));
        self::assertTrue(Followers::usesFaces(self::area(Part::Face, self::path(self::face(0), Ring::Oval), Model::Relief), null));
        self::assertFalse(Followers::usesFaces(self::area(Part::Neck, new Ellipse('s', [0.5, 0.5], [0.1, 0.1]), Model::Affine), null));
    }
}
