<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Gaze;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Source;
use PHPUnit\Framework\TestCase;

/** Both eyes of a head look the same way. */
final class GazeTest extends TestCase
{
    private const START = 2;
    private const LAST = 19;

    /** A head that goes right, rises and grows. */
    private static function head(int $f): Matrix
    {
        return Matrix::about(0.5, 0.5, 0.0, 1 + 0.01 * $f, 1 + 0.01 * $f, 0.01 * $f, -0.005 * $f);
    }

    /** How far eyes have gone on the head by a frame. */
    private static function glance(int $f): float
    {
        return 0.02 * sin($f / 3);
    }

    private static function area(string $id, Part $part, Ellipse $shape, string $person = 'wren'): Area
    {
        $motion = new Motion(Motion::FOLLOW, self::START, [0, self::LAST], $part === Part::Face ? Model::Similarity : Model::Iris, track: $id);

        return new Area($id, $id, $part->value, $person, true, new Outline(self::START, [$shape]), $motion, new Live(0, self::LAST), new Keyed(1.0), new BlinkGuard(), []);
    }

    /** Where an eye is that looks as the pair does, and aside of that. */
    private static function eye(float $x, int $f, float $aside = 0.0): Matrix
    {
        [$u, $v] = self::head($f)->apply($x + self::glance($f) + $aside, 0.4);
        $scale = self::head($f)->scale();

        return Matrix::of([$scale, 0, $u - $scale * $x, 0, $scale, $v - $scale * 0.4, 0, 0, 1]);
    }

    /**
     * @param callable(int): Step $left
     * @param callable(int): Step $right
     *
     * @return array<string, Track> what was put right
     */
    private static function together(callable $left, callable $right, string $person = 'wren'): array
    {
        $areas = [
            'face' => self::area('face', Part::Face, new Ellipse('f', [0.5, 0.5], [0.3, 0.4])),
            'left' => self::area('left', Part::Iris, new Ellipse('l', [0.6, 0.4], [0.03, 0.03])),
            'right' => self::area('right', Part::Iris, new Ellipse('r', [0.4, 0.4], [0.03, 0.03]), $person),
        ];
        $steps = ['face' => static fn(int $f): Step => new Step(self::head($f), State::Followed, 1.0), 'left' => $left, 'right' => $right];
        $tracks = array_map(static fn(callable $of): Track => Track::of(self::START, Model::Iris, array_map($of, range(0, self::LAST))), $steps);

        return Gaze::together($areas, new Motions(new Recipe(new Source(str_repeat('a', 64), [0, self::LAST], '24/1', [1280, 720]), areas: array_values($areas)), $tracks), self::START);
    }

    private static function seen(float $x, int $f, float $confidence = 0.95, float $aside = 0.0): Step
    {
        return new Step(self::eye($x, $f, $aside), State::Followed, $confidence, null, 0.9);
    }

    private static function assertLooks(Track $track, int $f, float $x, float $within = 1e-9): void
    {
        [$u, $v] = $track->matrix($f)->times($track->matrix(self::START)->inverse())->apply(...self::eye($x, self::START)->apply($x, 0.4));
        [$wantU, $wantV] = self::eye($x, $f)->apply($x, 0.4);
        self::assertEqualsWithDelta($wantU, $u, $within, "frame {$f}");
        self::assertEqualsWithDelta($wantV, $v, $within, "frame {$f}");
    }

    public function test_an_eye_that_was_lost_to_something_else_is_put_where_the_other_looks(): void
    {
        // The corner of the eye is taken for the iris, half sure of it.
        $mended = self::together(
            static fn(int $f): Step => $f > 8 && $f < 15 ? self::seen(0.6, $f, 0.8, 0.05) : self::seen(0.6, $f),
            static fn(int $f): Step => self::seen(0.4, $f),
        );
        self::assertSame(['left'], array_keys($mended));
        $left = $mended['left'];
        foreach (range(0, self::LAST) as $f) {
            self::assertLooks($left, $f, 0.6);
            self::assertSame($f > 8 && $f < 15 ? State::Bridged : State::Followed, $left->steps[$f]->state, "frame {$f}");
        }
        self::assertLessThan(0.4, $left->steps[12]->confidence);
        self::assertEqualsWithDelta(self::head(12)->scale(), $left->matrix(12)->scale(), 0.02);
    }

    public function test_an_eye_that_is_not_seen_looks_with_the_other_and_keeps_its_difference(): void
    {
        // A squint that grows from nothing to a third of the iris while one eye is covered.
        $squint = static fn(int $f): float => 0.01 * min(1.0, max(0.0, ($f - 5) / 10));
        $mended = self::together(
            static fn(int $f): Step => self::seen(0.6, $f),
            static fn(int $f): Step => $f > 5 && $f < 15
                ? new Step(Matrix::identity(), State::Bridged, 0.0, null, 0.1)
                : self::seen(0.4, $f, 0.95, $squint($f)),
        );
        self::assertSame(['right'], array_keys($mended));
        foreach (range(0, self::LAST) as $f) {
            $step = $mended['right']->steps[$f];
            [$x] = $step->matrix->apply(0.4, 0.4);
            self::assertEqualsWithDelta(self::eye(0.4, $f, $squint($f))->apply(0.4, 0.4)[0], $x, 1e-9, "frame {$f}");
            self::assertSame(0.9, $step->open, "frame {$f}");
        }
    }

    public function test_eyes_that_agree_or_blink_together_are_left_alone(): void
    {
        $blink = static fn(float $x): \Closure => static fn(int $f): Step => $f > 8 && $f < 12
            ? new Step(self::eye($x, $f, 0.05 * ($x < 0.5 ? 1 : 0)), State::Bridged, 0.0, null, 0.0)
            : self::seen($x, $f, 0.95, $x < 0.5 ? 0.01 : 0.0);
        self::assertSame([], self::together($blink(0.6), $blink(0.4)));
        // Half a blink, seen by one eye alone and not surely.
        $glint = static fn(int $f): Step => $f === 10 ? self::seen(0.6, $f, 0.4, 0.06) : $blink(0.6)($f);
        self::assertSame([], self::together($glint, $blink(0.4)));
    }

    public function test_an_eye_in_the_shadow_is_as_open_as_the_other_and_one_that_closes_winks(): void
    {
        $open = static fn(callable $of): callable => static fn(int $f): Step => self::seen(0.4, $f)->opened($of($f));
        $left = static fn(int $f): Step => self::seen(0.6, $f);
        $mended = self::together($left, $open(static fn(int $f): float => $f > 7 && $f < 14 ? 0.2 + 0.05 * ($f % 3) : 0.85));
        self::assertSame(['right'], array_keys($mended));
        foreach (range(0, self::LAST) as $f) {
            self::assertSame($f > 7 && $f < 14 ? 0.9 : 0.85, $mended['right']->steps[$f]->open, "frame {$f}");
            self::assertSame(State::Followed, $mended['right']->steps[$f]->state);
        }
        $wink = [8 => 0.5, 9 => 0.3, 10 => 0.05, 11 => 0.0, 12 => 0.3, 13 => 0.5];
        self::assertSame([], self::together($left, $open(static fn(int $f): float => $wink[$f] ?? 0.9)));
    }

    public function test_eyes_of_two_people_need_not_look_the_same_way(): void
    {
        $away = static fn(int $f): Step => self::seen(0.6, $f, 0.8, $f > 8 ? 0.06 : 0.0);
        self::assertSame([], self::together($away, static fn(int $f): Step => self::seen(0.4, $f), 'ione'));
    }
}
