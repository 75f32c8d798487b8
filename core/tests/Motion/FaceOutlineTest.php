<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Silhouette;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Motion\FaceOutline;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Recipe\Source;
use Cossel\Core\Tests\Face\Meshes;
use PHPUnit\Framework\TestCase;

/** The outline of a face keeps to the face's border, whatever its surface does. */
final class FaceOutlineTest extends TestCase
{
    private const LAST = 8;
    private const AT = [0.75, 0.5];
    private const SIZE = 0.8;

    /** A face that goes to the right, turns away and tilts. */
    private static function face(int $f, float $score = 25.0): Mesh
    {
        $mesh = Meshes::face(...self::AT, size: self::SIZE, score: $score);
        $places = [];
        for ($k = 0; $k < Mesh::POINTS; ++$k) {
            array_push($places, ...[...self::moved($f, ...$mesh->at($k)), 0.0]);
        }

        return Mesh::of($score, $places);
    }

    /** @return array{float, float} */
    private static function moved(int $f, float $x, float $y): array
    {
        [$u, $v] = [(1.0 - 0.04 * $f) * ($x - self::AT[0]), $y - self::AT[1]];
        [$cos, $sin] = [cos(0.05 * $f), sin(0.05 * $f)];

        return [self::AT[0] + 0.01 * $f + $cos * $u - $sin * $v, self::AT[1] + $sin * $u + $cos * $v];
    }

    /** Round the face, in shares of the way to its border. */
    private static function path(float $share): Path
    {
        $points = [];
        for ($k = 0; $k < 12; ++$k) {
            $turn = 2 * M_PI * $k / 12;
            [$a, $b] = [$share * self::SIZE * 0.45, $share * self::SIZE * 0.5];
            [$inX, $inY] = [0.17 * $a * sin($turn), -0.17 * $b * cos($turn)];
            $points[] = new PathPoint(self::AT[0] + $a * cos($turn), self::AT[1] + $b * sin($turn), $inX, $inY, -$inX, -$inY);
        }

        return new Path('s', $points, 0.0, 0.0);
    }

    private static function area(Shape $shape, ?string $track = null): Area
    {
        return new Area('a', 'Face', 'face', null, true, new Outline(0, [$shape]), new Motion(Motion::FOLLOW, 0, [0, self::LAST], Model::Perspective, track: $track, pivot: self::AT), new Live(0, self::LAST), new Keyed(1.0), new BlinkGuard(), []);
    }

    /** @param array<string, Track> $tracks */
    private static function motions(Area $area, array $tracks = []): Motions
    {
        return new Motions(new Recipe(new Source(str_repeat('a', 64), [0, self::LAST], '24/1', [1600, 900]), areas: [$area]), $tracks);
    }

    /** @param \Closure(int): list<Mesh> $faces */
    private static function outline(Shape $shape, \Closure $faces): ?FaceOutline
    {
        $area = self::area($shape);

        return FaceOutline::of($area, Meshes::source($faces, [0, self::LAST]), 0, self::motions($area));
    }

    /** @return array<int, Step> of a surface that stays where it is */
    private static function still(): array
    {
        return array_map(static fn(): Step => new Step(Matrix::identity(), State::Followed, 0.8), array_flip(range(1, self::LAST)));
    }

    /**
     * By how much the points and the ends of their handles have another share of the way to the border than they had, at the most.
     *
     * @param array<int, Step> $steps
     */
    private static function off(array $steps, int $frame, Path $path): float
    {
        $off = 0.0;
        foreach ($steps[$frame]->points ?? [] as $i => $p) {
            $from = $path->points[$i];
            foreach ([[0.0, 0.0, 0.0, 0.0], [$from->inX, $from->inY, $p->inX, $p->inY], [$from->outX, $from->outY, $p->outX, $p->outY]] as [$x, $y, $u, $v]) {
                $off = max($off, abs(self::share($frame, $p->x + $u, $p->y + $v) - self::share(0, $from->x + $x, $from->y + $y)));
            }
        }

        return $off;
    }

    /** By the oval that the face is. */
    private static function share(int $f, float $x, float $y): float
    {
        [$cos, $sin] = [cos(0.05 * $f), sin(0.05 * $f)];
        [$u, $v] = [$x - self::AT[0] - 0.01 * $f, $y - self::AT[1]];

        return hypot(($cos * $u + $sin * $v) / (1.0 - 0.04 * $f) / (0.45 * self::SIZE), ($cos * $v - $sin * $u) / (0.5 * self::SIZE));
    }

    public function test_a_place_is_told_by_the_border_and_found_again(): void
    {
        $border = Silhouette::of(self::face(5));
        foreach ([[0.6, 0.3], [0.9, 0.8], [0.8, 0.5]] as [$x, $y]) {
            [$u, $v] = $border->place($border->told($x, $y));
            self::assertEqualsWithDelta($x, $u, 1e-9);
            self::assertEqualsWithDelta($y, $v, 1e-9);
        }
        // The brow is up, however the face is tilted, and on the border.
        [$x, $y, $share] = $border->told(...self::face(5)->at(10));
        self::assertEqualsWithDelta(0.0, $x, 0.02);
        self::assertLessThan(-0.9, $y);
        self::assertEqualsWithDelta(1.0, $share, 0.01);
    }

    public function test_an_outline_along_the_border_goes_and_turns_with_it(): void
    {
        foreach ([0.95, 1.05] as $share) {
            $path = self::path($share);
            $steps = self::outline($path, static fn(int $f): array => [self::face($f)])?->laid(self::still(), Model::Perspective, null) ?? [];
            self::assertCount(self::LAST + 1, $steps);
            self::assertSame(array_map(static fn(PathPoint $p): array => [$p->x, $p->outY], $path->points), array_map(static fn(PathPoint $p): array => [$p->x, $p->outY], $steps[0]->points ?? []));
            foreach ([2, 5, self::LAST] as $frame) {
                self::assertLessThan(0.015, self::off($steps, $frame, $path), "frame {$frame}");
                // The point at the right of the face turned down with it.
                self::assertGreaterThan(self::AT[1] + 0.6 * 0.05 * $frame * 0.36, $steps[$frame]->points[0]->y ?? 0.0);
                self::assertSame(0.8, $steps[$frame]->confidence);
            }
        }
    }

    public function test_where_the_face_is_not_seen_or_is_another_one_it_is_laid_between(): void
    {
        $path = self::path(1.0);
        foreach ([[], [Meshes::face(self::AT[0] + 0.45, self::AT[1], self::SIZE)]] as $others) {
            $steps = self::outline($path, static fn(int $f): array => $f > 2 && $f < 6 ? $others : [self::face($f)])?->laid(self::still(), Model::Perspective, null) ?? [];
            self::assertLessThan(0.03, self::off($steps, 4, $path));
        }
    }

    public function test_what_is_not_drawn_along_the_border_stays_with_the_surface(): void
    {
        $faces = static fn(int $f): array => [self::face($f)];
        self::assertNull(self::outline(self::path(0.6), $faces));
        self::assertNull(self::outline(self::path(1.5), $faces));
        self::assertNull(self::outline(new Ellipse('s', self::AT, [0.36, 0.4], 0.0, 0.0, 0.0), $faces));
        self::assertNull(self::outline(self::path(1.0), static fn(int $f): array => [self::face($f, 9.0)]));
        self::assertNull(self::outline(self::path(1.0), static fn(int $f): array => []));
    }

    public function test_the_edge_goes_with_its_points_and_what_lies_on_the_face_with_the_surface(): void
    {
        $path = self::path(1.0);
        $relief = new Relief(0.3, 0.0, 0.9, 1.0, 4, 4, array_fill(0, 16, 0.2));
        $points = array_map(static fn(PathPoint $p): PathPoint => $p->by(0.1, 0.0), $path->points);
        $track = Track::of(0, Model::Perspective, [
            0 => new Step(Matrix::identity(), State::Set, 1.0, $path->points),
            1 => new Step(Matrix::identity(), State::Followed, 0.8, $points, null, [0.3, 0.0]),
        ], $relief);
        $area = self::area($path, 't');
        $motions = self::motions($area, ['t' => $track]);
        $pose = $motions->pose($area, $path, 1);
        self::assertEqualsWithDelta($path->points[3]->x + 0.1, $pose->path($path->points)[3]->x, 1e-9);
        // 0.3 of what stands out by 0.2.
        self::assertEqualsWithDelta(self::AT[0] + 0.06, $pose->apply(...self::AT)[0], 1e-6);
        self::assertEqualsWithDelta(self::AT[0] + 0.06, $motions->followed($area, 1)->apply(...self::AT)[0], 1e-6);
        // A round shape on the face has no points of its own.
        $round = new Ellipse('e', self::AT, [0.1, 0.1], 0.0, 0.0, 0.0);
        self::assertNull($motions->pose($area, $round, 1)->warp);
        // Nor has what is cut out of it by hand.
        $cut = new Path('c', self::path(0.2)->points, 0.0, 0.0, join: Join::Cut);
        self::assertNull($motions->pose($area->withOutline(new Outline(0, [$path, $cut])), $cut, 1)->warp);
    }
}
