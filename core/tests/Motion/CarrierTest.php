<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\HeadCarrier;
use Cossel\Core\Motion\IrisFollower;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\OpeningLook;
use Cossel\Core\Motion\OutlineFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Motion\Weakness;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Propose\Ways;
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
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

/** What is on a head goes where the head goes, also where it is not seen itself. */
final class CarrierTest extends TestCase
{
    /** Pixels that the head goes right in a frame: further than soft outlines are looked for. */
    private const FAST = 26;

    private static function area(string $id, Part $part, Shape $shape, Motion $motion, ?string $person = null): Area
    {
        return new Area($id, $id, $part->value, $person, true, new Outline(0, [$shape]), $motion, new Live(0, 20), new Keyed(1.0), new BlinkGuard(), []);
    }

    private static function followed(string $track, Model $model = Model::Similarity, array $pivot = [0.0, 0.0]): Motion
    {
        return new Motion(Motion::FOLLOW, 0, [0, 9], $model, pivot: $pivot, track: $track);
    }

    /** A track that goes right by so many pixels of 160 rows a frame. */
    private static function going(float $speed): Track
    {
        $steps = [];
        for ($f = 0; $f < 10; ++$f) {
            $steps[$f] = new Step(Matrix::move($speed * $f / 160, 0), $f === 0 ? State::Set : State::Followed, 0.9);
        }

        return Track::of(0, Model::Similarity, $steps);
    }

    /** @return list<PathPoint> round a place, pixels */
    private static function ring(float $x, float $y, float $wide, float $high): array
    {
        $points = [];
        for ($k = 0; $k < 10; ++$k) {
            $c = cos(2 * M_PI * $k / 10);
            $s = sin(2 * M_PI * $k / 10);
            $points[] = new PathPoint($x + $wide * $c, $y + $high * $s, 0.2 * $wide * $s, -0.2 * $high * $c, -0.2 * $wide * $s, 0.2 * $high * $c);
        }

        return $points;
    }

    /** @return list<PathPoint> in picture heights */
    private static function small(array $points): array
    {
        return array_map(static fn(PathPoint $p): PathPoint => $p->moved(Matrix::of([1 / 160, 0, 0, 0, 1 / 160, 0, 0, 0, 1])), $points);
    }

    private static function motions(Track $head, Area ...$others): Motions
    {
        $face = self::area('face', Part::Face, new Ellipse('f', [0.3, 0.5], [0.3, 0.4]), self::followed('head'));

        return new Motions(new Recipe(new Source(str_repeat('a', 64), [0, 9], '24/1', [400, 160]), areas: [$face, ...$others]), ['head' => $head]);
    }

    private static function lips(): Area
    {
        return self::area('lips', Part::Lips, new Path('l', self::small(self::ring(60, 80, 26, 12))), new Motion(Motion::RIDE, on: 'face'));
    }

    /** @param list<int> $hidden frames on which a plain card is before all of it */
    private static function mouth(array $hidden = []): Painted
    {
        return new Painted(static function (int $f, float $x, float $y) use ($hidden): array {
            if (in_array($f, $hidden, true)) {
                return [0.5, 0.5, 0.5];
            }
            $inside = hypot(($x - 60 - self::FAST * $f) / 26, ($y - 80) / 12) < 1;

            return $inside ? [0.6, 0.3, 0.32] : [0.72, 0.55, 0.48];
        }, 400);
    }

    public function test_lips_are_found_where_a_fast_head_has_taken_them(): void
    {
        $lips = self::lips();
        $path = $lips->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        $carrier = HeadCarrier::of($lips, 0, self::motions(self::going(self::FAST), $lips));
        foreach (OutlineFollower::from(self::mouth([4, 5, 6, 7, 8, 9]), 0, $path, Pose::still(), $carrier)->to(9) as $f => $step) {
            self::assertSame($f === 0 ? State::Set : ($f < 4 ? State::Followed : State::Lost), $step->state, "frame {$f}");
            // Also where it is hidden it stays on the head.
            self::assertEqualsWithDelta((60 + 26 + self::FAST * $f) / 160, ($step->points ?? [])[0]->x, 0.02, "frame {$f}");
        }
    }

    public function test_what_leaves_its_head_is_not_followed_away(): void
    {
        // What looks like the lips goes on ahead of the head, a little each frame.
        $source = new Painted(static function (int $f, float $x, float $y): array {
            $inside = hypot(($x - 60 - 8 * $f) / 26, ($y - 80) / 12) < 1;

            return $inside ? [0.6, 0.3, 0.32] : [0.72, 0.55, 0.48];
        }, 400);
        $lips = self::lips();
        $path = $lips->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        $steps = iterator_to_array(OutlineFollower::from($source, 0, $path, Pose::still(), HeadCarrier::of($lips, 0, self::motions(self::going(4), $lips)))->to(9));
        self::assertSame(State::Followed, $steps[2]->state);
        self::assertSame(State::Lost, $steps[9]->state);
        self::assertEqualsWithDelta((60 + 26 + 4 * 9) / 160, ($steps[9]->points ?? [])[0]->x, 0.1);
    }

    public function test_what_was_nearly_closed_when_it_was_hidden_is_found_open_again(): void
    {
        $high = [24.0, 20.0, 16.0, 12.0, 8.0, 5.0, 0.0, 0.0, 24.0, 24.0];
        $source = new Painted(static function (int $f, float $x, float $y) use ($high): array {
            $inside = $high[$f] > 0 && hypot(($x - 120) / 50, ($y - 80) / $high[$f]) < 1;

            return $inside ? [0.85, 0.85, 0.84] : [0.6, 0.45, 0.38];
        }, 260);
        $lids = self::area('lids', Part::Lids, new Path('l', self::small(self::ring(120, 80, 50, 24))), new Motion(Motion::RIDE, on: 'face'));
        $path = $lids->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        $steps = iterator_to_array(OutlineFollower::from($source, 0, $path, Pose::still(), HeadCarrier::of($lids, 0, self::motions(self::going(0), $lids)))->to(9));
        self::assertSame(State::Followed, $steps[4]->state);
        foreach ([8, 9] as $f) {
            self::assertSame(State::Followed, $steps[$f]->state, "frame {$f}");
            foreach ($steps[$f]->points ?? [] as $i => $p) {
                self::assertLessThan(3.0, 160 * abs($p->y - $path->points[$i]->y), "frame {$f}, point {$i}");
            }
        }
    }

    public function test_an_iris_is_held_in_its_head(): void
    {
        // The eye is covered from frame 3 on while the head goes on; something round and dark is beside it, further than eyes look.
        $source = (new Painted(static function (int $f, float $x, float $y): array {
            foreach ([[60 + self::FAST * $f - ($f < 3 ? 0 : 22), 80.0]] as [$ex, $ey]) {
                $d = hypot($x - $ex, $y - $ey);
                if ((($x - $ex) / 30) ** 2 + (($y - $ey) / 13) ** 2 < 1) {
                    return match (true) {
                        $d < 5 => [0.05, 0.05, 0.05],
                        $d < 12 => [0.3, 0.2, 0.12],
                        default => [0.85, 0.85, 0.84],
                    };
                }
            }

            return [0.72, 0.55, 0.48];
        }, 400))->kept();
        $iris = self::area('iris', Part::Iris, new Ellipse('i', [60 / 160, 0.5], [12 / 160, 12 / 160]), new Motion(Motion::RIDE, model: Model::Iris, on: 'face'));
        $carrier = HeadCarrier::of($iris, 0, self::motions(self::going(self::FAST), $iris));
        $region = Still::matte($iris->outline, $source->frame());
        foreach (IrisFollower::from($source, 0, $region, $carrier)->to(9) as $f => $step) {
            [$x] = $step->matrix->apply(60 / 160, 0.5);
            self::assertEqualsWithDelta((60 + self::FAST * $f) / 160, $x, 0.05, "frame {$f}");
        }
    }

    public function test_teeth_stay_within_the_lips_and_are_gone_when_the_mouth_is_shut(): void
    {
        $open = static fn(int $f): float => [9.0, 8.0, 6.0, 3.0, 0.0, 0.0, 4.0, 7.0, 9.0, 9.0][$f];
        $source = (new Painted(static function (int $f, float $x, float $y) use ($open): array {
            $gap = $open($f);
            if ($gap > 0 && hypot(($x - 60) / 20, ($y - 80) / $gap) < 1) {
                return $y < 80 ? [0.85, 0.83, 0.78] : [0.15, 0.06, 0.06];
            }

            return hypot(($x - 60) / 30, ($y - 80) / (8 + $gap)) < 1 ? [0.6, 0.3, 0.32] : [0.72, 0.55, 0.48];
        }, 400))->kept();
        $steps = [];
        for ($f = 0; $f < 10; ++$f) {
            $steps[$f] = new Step(Matrix::identity(), State::Followed, 1.0, self::small(self::ring(60, 80, 30, 8 + $open($f))));
        }
        $lips = self::area('lips', Part::Lips, new Path('l', self::small(self::ring(60, 80, 30, 17))), self::followed('lips', Model::Outline));
        $teeth = self::area('teeth', Part::Teeth, new Path('t', self::small(self::ring(60, 80, 20, 9))), new Motion(Motion::RIDE, on: 'face'));
        $recipe = new Recipe(new Source(str_repeat('a', 64), [0, 9], '24/1', [400, 160]), areas: [$lips, $teeth]);
        $motions = new Motions($recipe, ['lips' => Track::of(0, Model::Outline, $steps)]);
        $carrier = HeadCarrier::of($teeth, 0, $motions);
        self::assertNotNull($carrier);
        self::assertTrue($carrier->holds(0, self::ring(60, 80, 20, 9), 160));
        self::assertFalse($carrier->holds(0, self::ring(90, 80, 20, 9), 160));
        $path = $teeth->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        $opens = [];
        foreach (OutlineFollower::from($source, 0, $path, Pose::still(), $carrier, true)->to(9) as $f => $step) {
            $opens[$f] = $step->open ?? -1.0;
        }
        self::assertLessThan(0.2, max($opens[4], $opens[5]));
        self::assertGreaterThan(0.85, min($opens[0], $opens[1], $opens[8], $opens[9]));
    }

    public function test_an_opening_looks_open_where_it_does_not_look_like_what_is_round_it(): void
    {
        // The whole grows darker; on frame 2 the opening is filled with lips.
        $source = new Painted(static function (int $f, float $x, float $y): array {
            $light = 1 - 0.3 * $f;
            $in = $f < 2 && hypot(($x - 60) / 20, ($y - 80) / 9) < 1;

            return array_map(static fn(float $v): float => $light * $v, $in ? ($y < 80 ? [0.85, 0.83, 0.78] : [0.15, 0.06, 0.06]) : [0.6, 0.3, 0.32]);
        }, 400);
        $look = new OpeningLook($source, 0, self::ring(60, 80, 20, 9));
        self::assertEqualsWithDelta(1.0, $look->open(0, self::ring(60, 80, 20, 9)), 0.01);
        self::assertGreaterThan(0.8, $look->open(1, self::ring(60, 80, 20, 9)));
        self::assertLessThan(0.1, $look->open(2, self::ring(60, 80, 20, 9)));
    }

    public function test_the_head_is_the_same_persons_and_of_several_the_nearest(): void
    {
        $shape = new Ellipse('e', [0.3, 0.5], [0.1, 0.1]);
        $face = static fn(string $id, ?string $person, array $pivot): Area => self::area($id, Part::Face, $shape, self::followed('t', pivot: $pivot), $person);
        $lips = self::area('lips', Part::Lips, $shape, new Motion(pivot: [0.9, 0.5]), 'wren');
        $recipe = new Recipe(new Source(str_repeat('a', 64), [0, 9], '24/1', [400, 160]), areas: [
            $face('ione', 'ione', [0.9, 0.5]), $face('far', 'wren', [0.1, 0.5]), $face('near', 'wren', [0.8, 0.5]), $lips,
        ]);
        $motions = new Motions($recipe, ['t' => self::going(1)]);
        self::assertSame('near', $motions->head($lips)?->id);
        self::assertNull($motions->head(self::area('neck', Part::Neck, $shape, new Motion(), 'wren')));
        self::assertNull($motions->head(self::area('other', Part::Lips, $shape, new Motion(), 'dario')));
    }

    public function test_weak_frames_are_told_with_why(): void
    {
        $steps = $head = [];
        for ($f = 0; $f < 40; ++$f) {
            $weak = in_array($f, [4, 5, 7, 12, 13, 14, 20, 21, 22, 28, 29, 30, 31, 36, 37, 38, 39], true);
            // Closed lids are no weakness.
            $open = $f > 27 && $f < 32 ? 0.0 : 1.0;
            $steps[$f] = new Step(Matrix::identity(), State::Followed, $weak ? 0.2 : 0.9, null, $open);
            $turned = $f >= 18 && $f < 25;
            $head[$f] = new Step(Matrix::of([$turned ? 0.7 : 1.0, 0, 0, 0, 1, 0, 0, 0, 1]), $f > 11 && $f < 15 ? State::Bridged : State::Followed, 0.9);
        }
        $words = Weakness::of('Left iris', Track::of(0, Model::Iris, $steps), Track::of(0, Model::Perspective, $head));
        // What is hidden with the head is told of the head; the longest two are told.
        self::assertSame('Left iris: weak on 4 to 7; on 36 to 39; and 1 more', $words);
        $late = array_filter($steps, static fn(int $f): bool => $f > 14 && $f < 35, ARRAY_FILTER_USE_KEY);
        $words = Weakness::of('Left iris', Track::of(15, Model::Iris, $late), Track::of(0, Model::Perspective, $head));
        self::assertSame('Left iris: weak on 20 to 22, the head turns away', $words);
        self::assertNull(Weakness::of('Face', Track::of(0, Model::Perspective, [new Step(Matrix::identity(), State::Set, 1.0)]), null));
    }

    public function test_each_part_has_its_way(): void
    {
        $path = new Path('p', self::ring(1, 1, 1, 1));
        $way = static fn(Part $part): ?Model => Ways::of(self::area('a', $part, $path, new Motion()));
        self::assertSame(
            [Model::Relief, Model::Similarity, Model::Iris, Model::Outline, Model::Outline, Model::Outline, null],
            array_map($way, [Part::Face, Part::Skin, Part::Iris, Part::Lids, Part::Lips, Part::Teeth, Part::Neck]),
        );
        // Points can only be followed one by one on a path.
        self::assertNull(Ways::of(self::area('a', Part::Lips, new Ellipse('e', [0, 0], [1, 1]), new Motion())));
    }
}
