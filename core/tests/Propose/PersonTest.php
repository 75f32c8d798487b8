<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Propose\Face;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Irises;
use Cossel\Core\Propose\Landmarks;
use Cossel\Core\Propose\Person;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\Source;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Motion\Painted;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\TestCase;

final class PersonTest extends TestCase
{
    private const IRIS = [[166.0, 84.0], [94.0, 84.0]];

    /** @var array<string, Area>|null */
    private static ?array $areas = null;

    /**
     * A painted face whose lips and irises lie a little off where the landmarks say.
     *
     * @param list<array{float, float}> $eyes where they are open
     * @param bool                      $lips whether it has any
     * @param list<float>               $iris R'G'B'
     */
    private static function picture(array $eyes = self::IRIS, bool $lips = true, float $teeth = 0.0, array $iris = [0.3, 0.2, 0.1], float $white = 0.85): FrameSource
    {
        return (new Painted(static function (int $f, float $x, float $y) use ($eyes, $lips, $teeth, $iris, $white): array {
            if (abs(($y - 152) / 6) < 1 - (($x - 130) / 26) ** 2 && $teeth > 0.0) {
                return [$teeth, $teeth, 0.95 * $teeth];
            }
            foreach ($eyes as [$cx, $cy]) {
                $d = hypot($x - $cx, $y - $cy);
                if ((($x - $cx) / 24) ** 2 + (($y - $cy) / 9.5) ** 2 < 1) {
                    return match (true) {
                        $d < 4 => [0.05, 0.05, 0.05],
                        $d < 10 => $iris,
                        default => [$white, $white, 0.99 * $white],
                    };
                }
            }
            $mouth = $lips && (($x - 130) / 32) ** 2 + (($y - 152) / 14) ** 2 < 1;

            return $mouth ? [0.7, 0.3, 0.32] : [0.75, 0.58, 0.5];
        }, 260, 300))->kept();
    }

    /** @param float $gap half the height of the opening of the mouth */
    private static function landmarks(float $gap = 2.0, float $down = 0.0): Landmarks
    {
        $points = [];
        for ($i = 0; $i < 17; ++$i) {
            $angle = M_PI * (1 - $i / 16);
            $points[] = [130 + 75 * cos($angle), 100 + 95 * sin($angle)];
        }
        for ($i = 0; $i < 10; ++$i) {
            $points[] = [70 + 13 * $i, 66.0];
        }
        for ($i = 0; $i < 9; ++$i) {
            $points[] = [130.0, 90.0 + 4 * $i];
        }
        foreach ([92.0, 164.0] as $cx) {
            foreach ([[-22, 0], [-9, -8], [9, -8], [22, 0], [9, 8], [-9, 8]] as [$dx, $dy]) {
                $points[] = [$cx + $dx, 85.0 + $dy];
            }
        }
        for ($i = 0; $i < 12; ++$i) {
            $angle = M_PI + 2 * M_PI * $i / 12;
            $points[] = [131 + 31 * cos($angle), 154 + 12 * sin($angle)];
        }
        for ($i = 0; $i < 8; ++$i) {
            $angle = M_PI + 2 * M_PI * $i / 8;
            $points[] = [131 + 24 * cos($angle), 154 + $gap * sin($angle)];
        }

        return Landmarks::of(array_map(static fn(array $p): array => [$p[0] / 300, ($p[1] + $down) / 300], $points));
    }

    /**
     * @param list<Landmarks>|null $faces
     *
     * @return list<FoundPerson>
     */
    private static function found(?FrameSource $picture = null, ?array $faces = null): array
    {
        $n = 0;

        return Person::found($picture ?? self::picture(), $faces ?? [self::landmarks()], 7, new Live(0, 20), static function (string $letter) use (&$n): string {
            return $letter . ++$n;
        });
    }

    /** @return array<string, Area> by name */
    private static function areas(): array
    {
        self::$areas ??= array_column(array_map(static fn(Proposal $p): Area => $p->area, self::found()[0]->proposals), null, 'name');

        return self::$areas;
    }

    /**
     * @param list<FoundPerson> $found
     *
     * @return array<string, string|null> why each is doubtful, by name
     */
    private static function doubts(array $found): array
    {
        self::assertNotSame([], $found);

        return array_column(array_map(static fn(Proposal $p): array => [$p->area->name, $p->doubt], $found[0]->proposals), 1, 0);
    }

    public function test_every_part_is_proposed_and_rides_on_the_face(): void
    {
        $areas = self::areas();
        self::assertSame(['Face', 'Left lids', 'Left iris', 'Right lids', 'Right iris', 'Lips', 'Teeth', 'Neck'], array_keys($areas));
        foreach ($areas as $name => $area) {
            self::assertSame(7, $area->outline->at);
            self::assertSame($name === 'Face' ? null : $areas['Face']->id, $area->motion->on);
        }
        // What is proposed is a recipe that can be read.
        $document = (new RecipeWriter())->write(new Recipe(new Source(str_repeat('a', 64), [0, 20], '24/1', [260, 300]), areas: array_values($areas)));
        self::assertCount(8, (new RecipeReader(Kinds::all()))->read(json_decode((string) json_encode($document), true))->areas);
    }

    public function test_irises_are_drawn_to_their_round_edge_and_kept_within_the_lids(): void
    {
        $areas = self::areas();
        foreach (['Left' => 0, 'Right' => 1] as $side => $i) {
            [$iris, $lids] = $areas["{$side} iris"]->outline->shapes;
            self::assertInstanceOf(Ellipse::class, $iris);
            self::assertLessThan(1.2, hypot($iris->centre[0] * 300 - self::IRIS[$i][0], $iris->centre[1] * 300 - self::IRIS[$i][1]));
            self::assertEqualsWithDelta(10.0, $iris->radii[0] * 300, 1.0);
            self::assertInstanceOf(AreaShape::class, $lids);
            self::assertSame([$areas["{$side} lids"]->id, Join::Keep], [$lids->of, $lids->join]);
        }
    }

    public function test_lips_are_drawn_to_their_edge(): void
    {
        $path = self::areas()['Lips']->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        foreach ($path->points as $i => $p) {
            $off = abs(hypot(($p->x * 300 - 130) / 32, ($p->y * 300 - 152) / 14) - 1) * 14;
            self::assertLessThan(in_array($i, [0, 6], true) ? 3.0 : 1.6, $off, "point {$i}");
        }
    }

    public function test_lids_are_found_round_the_iris_and_not_where_the_landmarks_are(): void
    {
        $areas = self::areas();
        foreach (['Left' => 0, 'Right' => 1] as $side => $i) {
            $lids = $areas["{$side} lids"]->outline->shapes[0];
            self::assertInstanceOf(Path::class, $lids);
            foreach ($lids->points as $p) {
                [$u, $v] = [$p->x * 300 - self::IRIS[$i][0], $p->y * 300 - self::IRIS[$i][1]];
                self::assertLessThan(2.2, abs(hypot($u / 24, $v / 9.5) - 1) * ($v === 0.0 ? 24 : 12), "{$side}: {$u} {$v}");
            }
        }
    }

    public function test_an_open_face_is_sure_and_closed_teeth_are_not_proposed_unseen(): void
    {
        $doubts = self::doubts(self::found());
        self::assertSame('the mouth is closed', $doubts['Teeth']);
        self::assertSame([], array_filter([...$doubts, 'Teeth' => null]));
    }

    public function test_teeth_are_sure_where_they_show(): void
    {
        $doubts = self::doubts(self::found(self::picture(teeth: 0.85), [self::landmarks(7.0)]));
        self::assertNull($doubts['Teeth']);
        // As dark as the inside of a mouth they are none.
        $doubts = self::doubts(self::found(self::picture(teeth: 0.1), [self::landmarks(7.0)]));
        self::assertSame('no teeth are seen in the mouth', $doubts['Teeth']);
        // Lips hardly parted, and nothing light between them.
        self::assertSame('the mouth is closed', self::doubts(self::found(null, [self::landmarks(3.5)]))['Teeth']);
    }

    public function test_closed_eyes_are_told_and_the_face_stays_one(): void
    {
        $doubts = self::doubts(self::found(self::picture([])));
        self::assertNull($doubts['Lips']);
        self::assertStringContainsString('closed', (string) $doubts['Left lids']);
        self::assertStringContainsString('closed', (string) $doubts['Right lids']);
        self::assertArrayNotHasKey('Left iris', $doubts);
    }

    public function test_landmarks_over_plain_skin_are_no_face(): void
    {
        self::assertSame([], self::found(self::picture([], false)));
    }

    public function test_a_mouth_outside_the_frame_is_not_proposed_and_says_so(): void
    {
        $picture = new class (self::picture()) implements FrameSource {
            public function __construct(private readonly FrameSource $whole) {}

            public function frame(): Rect
            {
                return Rect::of(0, 0, 260, 140);
            }

            public function luma(int $frame, Rect $rect): Grey
            {
                return $this->whole->luma($frame, $rect);
            }

            public function colour(int $frame, Rect $rect): Planes
            {
                return $this->whole->colour($frame, $rect);
            }
        };
        // The same landmarks, of a picture of 140 rows.
        $marks = new \ReflectionProperty(Landmarks::class, 'points');
        $points = array_map(static fn(array $p): array => [$p[0] * 300 / 140, $p[1] * 300 / 140], $marks->getValue(self::landmarks()));
        $doubts = self::doubts(self::found($picture, [Landmarks::of($points)]));
        self::assertNull($doubts['Left iris']);
        self::assertArrayNotHasKey('Neck', $doubts);
        self::assertArrayNotHasKey('Lips', $doubts);
    }

    public function test_eyes_further_apart_than_their_size_allows_are_doubted(): void
    {
        $doubts = self::doubts(self::found(self::eyed([[174.0, 84.0, 6.6], [82.0, 84.0, 6.6]], [0.85, 0.85, 0.84], 2)));
        self::assertSame(
            ['the eyes are further apart than their size allows', 'the eyes are further apart than their size allows'],
            [$doubts['Left lids'], $doubts['Right lids']],
        );
    }

    public function test_lids_that_stay_unlike_the_other_eye_s_are_doubted_and_the_iris_is_not(): void
    {
        $stretched = (new Painted(static function (int $f, float $x, float $y): array {
            foreach ([[166.0, 84.0, 0.0, 24.0], [94.0, 84.0, -16.0, 40.0]] as [$cx, $cy, $off, $wide]) {
                if ((($x - $cx - $off) / $wide) ** 2 + (($y - $cy) / 9.5) ** 2 < 1) {
                    $d = hypot($x - $cx, $y - $cy);

                    return $d < 4 ? [0.05, 0.05, 0.05] : ($d < 10 ? [0.3, 0.2, 0.1] : [0.85, 0.85, 0.84]);
                }
            }

            return (($x - 130) / 32) ** 2 + (($y - 152) / 14) ** 2 < 1 ? [0.7, 0.3, 0.32] : [0.75, 0.58, 0.5];
        }, 260, 300))->kept();
        $doubts = self::doubts(self::found($stretched));
        self::assertStringContainsString('unlike those of the other eye', $doubts['Right lids'] . $doubts['Left lids']);
        self::assertSame([null, null], [$doubts['Right iris'], $doubts['Left iris']]);
    }

    public function test_light_irises_are_irises_and_what_is_as_red_as_the_white_is_none(): void
    {
        // Hardly darker than a white in the shade: blue and grey eyes.
        $doubts = self::doubts(self::found(self::picture(iris: [0.42, 0.56, 0.6], white: 0.6)));
        self::assertSame([null, null], [$doubts['Right iris'], $doubts['Left iris']]);
        $doubts = self::doubts(self::found(self::picture(iris: [0.58, 0.25, 0.25], white: 0.6)));
        self::assertStringContainsString('hardly stands out', (string) $doubts['Right iris']);
        self::assertStringContainsString('hardly stands out', (string) $doubts['Left iris']);
    }

    public function test_a_person_is_found_in_noise(): void
    {
        $noisy = new class (self::picture()) implements FrameSource {
            private readonly Planes $planes;

            public function __construct(private readonly FrameSource $clean)
            {
                $random = Chance::seeded(2);
                $planes = $clean->colour(7, $clean->frame());
                $grain = static fn(float $v): float => $v + $random->between(-0.4, 0.4);
                $this->planes = new Planes($planes->rect, array_map($grain, $planes->r), array_map($grain, $planes->g), array_map($grain, $planes->b));
            }

            public function frame(): Rect
            {
                return $this->clean->frame();
            }

            public function luma(int $frame, Rect $rect): Grey
            {
                $v = [];
                for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
                    for ($x = $rect->x; $x < $rect->right(); ++$x) {
                        $v[] = Luma::at(...$this->planes->at(max(0, min(259, $x)), max(0, min(299, $y))));
                    }
                }

                return new Grey($rect, $v);
            }

            public function colour(int $frame, Rect $rect): Planes
            {
                return $this->planes->window($rect);
            }
        };
        $doubts = self::doubts(self::found($noisy));
        foreach (['Face', 'Left lids', 'Left iris', 'Right lids', 'Right iris', 'Lips'] as $part) {
            self::assertNull($doubts[$part], "{$part}: {$doubts[$part]}");
        }
    }

    public function test_irises_in_plain_skin_have_no_lids(): void
    {
        $doubts = self::doubts(self::found(self::eyed([[166.0, 84.0, 10.0], [94.0, 84.0, 10.0]], [0.75, 0.58, 0.5])));
        self::assertStringContainsString('lids do not stand out', (string) $doubts['Left lids']);
        self::assertStringContainsString('lids do not stand out', (string) $doubts['Right lids']);
    }

    public function test_of_several_circles_those_that_make_a_pair_are_the_irises(): void
    {
        // The right one has a second, larger edge that is clearer.
        $picture = (new Painted(static function (int $f, float $x, float $y): array {
            $left = hypot($x - 166, $y - 84);
            $right = hypot($x - 94, $y - 84);
            $v = match (true) {
                min($left, $right) < 2.8 => 0.05,
                min($left, $right) < 7.0 => 0.25,
                $right < 10.5 => 0.47,
                default => 0.85,
            };

            return [$v, $v, $v];
        }, 260, 200))->kept();
        [$left, $right] = Irises::of($picture, 7, [166.0, 84.0], [94.0, 84.0], 36.0);
        self::assertEqualsWithDelta(7.0, $left?->radius, 1.0);
        self::assertEqualsWithDelta(7.0, $right?->radius, 1.0);
    }

    public function test_lips_of_the_very_skin_are_doubted(): void
    {
        $doubts = self::doubts(self::found(self::picture(self::IRIS, false)));
        self::assertNull($doubts['Left lids']);
        self::assertSame('the lips do not stand out from the skin round them', $doubts['Lips']);
    }

    /**
     * A face with eyes of these sizes in white of this colour.
     *
     * @param list<array{float, float, float}> $eyes  centre and radius of the irises
     * @param array{float, float, float}       $white
     */
    private static function eyed(array $eyes, array $white, int $scale = 1): FrameSource
    {
        return (new Painted(static function (int $f, float $x, float $y) use ($eyes, $white, $scale): array {
            [$x, $y] = [$x / $scale, $y / $scale];
            foreach ($eyes as [$cx, $cy, $r]) {
                if ((($x - $cx) / $r / 2.4) ** 2 + (($y - $cy) / $r / 0.95) ** 2 < 1) {
                    $d = hypot($x - $cx, $y - $cy) / $r;

                    return match (true) {
                        $d < 0.4 => [0.05, 0.05, 0.05],
                        $d < 1.0 => [0.3, 0.2, 0.1],
                        default => $white,
                    };
                }
            }
            $lips = (($x - 130) / 32) ** 2 + (($y - 152) / 14) ** 2 < 1;

            return $lips ? [0.7, 0.3, 0.32] : [0.75, 0.58, 0.5];
        }, 260 * $scale, 300 * $scale, $scale === 1))->kept();
    }

    public function test_eyes_alone_are_found_where_no_face_is_whole(): void
    {
        $eyes = [[470.0, 150.0, 34.0], [140.0, 170.0, 34.0]];
        $picture = (new Painted(static function (int $f, float $x, float $y) use ($eyes): array {
            foreach ($eyes as [$cx, $cy, $r]) {
                $d = hypot($x - $cx, $y - $cy);
                if ((($x - $cx) / (2.3 * $r)) ** 2 + (($y - $cy) / (0.9 * $r)) ** 2 < 1) {
                    return match (true) {
                        $d < 0.4 * $r => [0.05, 0.05, 0.05],
                        $d < $r => [0.3, 0.22, 0.14],
                        default => [0.8, 0.79, 0.78],
                    };
                }
            }
            $shade = 0.03 * sin($x / 9) * cos($y / 13);

            return [0.42 + $shade, 0.27 + $shade, 0.2 + $shade];
        }, 640, 360, false))->kept();
        $found = self::found($picture, []);
        self::assertCount(1, $found);
        self::assertFalse($found[0]->whole);
        $areas = array_column(array_map(static fn(Proposal $p): Area => $p->area, $found[0]->proposals), null, 'name');
        self::assertSame(['Brows and nose bridge', 'Left lids', 'Left iris', 'Right lids', 'Right iris'], array_keys($areas));
        foreach (['Left' => 0, 'Right' => 1] as $side => $i) {
            $iris = $areas["{$side} iris"]->outline->shapes[0];
            self::assertInstanceOf(Ellipse::class, $iris);
            self::assertLessThan(1.0, hypot($iris->centre[0] * 360 - $eyes[$i][0], $iris->centre[1] * 360 - $eyes[$i][1]));
            self::assertEqualsWithDelta(34.0, $iris->radii[0] * 360, 1.5);
            self::assertSame($areas['Brows and nose bridge']->id, $areas["{$side} iris"]->motion->on);
        }
    }

    public function test_a_face_within_an_eye_is_none(): void
    {
        // Landmarks as a detector set them into the glints of an iris: all of the face is one eye.
        $picture = (new Painted(static function (int $f, float $x, float $y): array {
            $d = hypot($x - 130, $y - 118);
            if ((($x - 130) / 115) ** 2 + (($y - 118) / 46) ** 2 > 1) {
                return [0.75, 0.58, 0.5];
            }

            return match (true) {
                $d < 16 => [0.05, 0.05, 0.05],
                $d < 40 => [0.3, 0.3, 0.34],
                default => [0.85, 0.85, 0.84],
            };
        }, 260, 300))->kept();
        self::assertSame([], array_filter(self::found($picture), static fn(FoundPerson $person): bool => $person->whole));
        self::assertTrue(Face::seen($picture, self::landmarks(), 7)->isEye($picture, 7));
        self::assertFalse(Face::seen(self::picture(), self::landmarks(), 7)->isEye(self::picture(), 7));
    }

    public function test_two_people_are_told_from_left_to_right(): void
    {
        $one = self::picture();
        $planes = $one->colour(7, $one->frame());
        $two = (new Painted(static fn(int $f, float $x, float $y): array => $planes->at((int) $x % 260, (int) $y), 520, 300, false))->kept();
        $marks = new \ReflectionProperty(Landmarks::class, 'points');
        $right = Landmarks::of(array_map(static fn(array $p): array => [$p[0] + 260 / 300, $p[1]], $marks->getValue(self::landmarks())));
        $found = self::found($two, [$right, self::landmarks()]);
        self::assertCount(2, $found);
        self::assertEqualsWithDelta($found[0]->box[0] + 260 / 300, $found[1]->box[0], 0.01);
        self::assertCount(16, array_unique(array_merge(...array_map(static fn(FoundPerson $p): array => array_map(static fn(Proposal $q): string => $q->area->id, $p->proposals), $found))));
    }

    public function test_a_face_of_another_number_of_points_is_refused(): void
    {
        $this->expectException(\InvalidArgumentException::class);
        Landmarks::of([[0.0, 0.0]]);
    }

    public function test_the_face_goes_up_over_the_forehead_and_the_neck_lies_under_the_chin(): void
    {
        $areas = self::areas();
        $face = $areas['Face']->outline->shapes[0];
        self::assertInstanceOf(Path::class, $face);
        $top = 300 * min(array_map(static fn(PathPoint $p): float => $p->y, $face->points));
        // Brows at 66, the chin at 195: three tenths of that above the brows.
        self::assertEqualsWithDelta(66 - 0.3 * 129, $top, 12);
        $neck = $areas['Neck']->outline->shapes[0];
        self::assertInstanceOf(Ellipse::class, $neck);
        self::assertGreaterThan(195 / 300, $neck->centre[1]);
        self::assertEqualsWithDelta(130 / 300, $neck->centre[0], 0.02);
    }
}
