<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Propose\Landmarks;
use Cossel\Core\Propose\Person;
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
use Cossel\Core\Tests\Motion\Painted;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\TestCase;

final class PersonTest extends TestCase
{
    private const IRIS = [[166.0, 84.0], [94.0, 84.0]];

    /** A painted face whose lips and irises lie a little off where the landmarks say. */
    private static function picture(): FrameSource
    {
        return new Painted(static function (int $f, float $x, float $y): array {
            foreach (self::IRIS as [$cx, $cy]) {
                $d = hypot($x - $cx, $y - $cy);
                if ((($x - $cx) / 24) ** 2 + (($y - $cy) / 9.5) ** 2 < 1) {
                    return match (true) {
                        $d < 4 => [0.05, 0.05, 0.05],
                        $d < 10 => [0.3, 0.2, 0.1],
                        default => [0.85, 0.85, 0.84],
                    };
                }
            }
            $lips = (($x - 130) / 32) ** 2 + (($y - 152) / 14) ** 2 < 1;

            return $lips ? [0.7, 0.3, 0.32] : [0.75, 0.58, 0.5];
        }, 260, 220);
    }

    private static function landmarks(): Landmarks
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
            $points[] = [131 + 24 * cos($angle), 154 + 2 * sin($angle)];
        }

        return Landmarks::of(array_map(static fn(array $p): array => [$p[0] / 220, $p[1] / 220], $points));
    }

    /** @return array<string, Area> by name */
    private static function areas(): array
    {
        $n = 0;

        return array_column(Person::areas(self::picture(), self::landmarks(), 7, new Live(0, 20), 'dario', static function (string $letter) use (&$n): string {
            return $letter . ++$n;
        }), null, 'name');
    }

    public function test_every_part_is_proposed_and_rides_on_the_face(): void
    {
        $areas = self::areas();
        self::assertSame(['Face', 'Left lids', 'Left iris', 'Right lids', 'Right iris', 'Lips', 'Teeth', 'Neck'], array_keys($areas));
        foreach ($areas as $name => $area) {
            self::assertSame([7, 'dario'], [$area->outline->at, $area->person]);
            self::assertSame($name === 'Face' ? null : $areas['Face']->id, $area->motion->on);
        }
        // What is proposed is a recipe that can be read.
        $document = (new RecipeWriter())->write(new Recipe(new Source(str_repeat('a', 64), [0, 20], '24/1', [260, 220]), areas: array_values($areas)));
        self::assertCount(8, (new RecipeReader(Kinds::all()))->read(json_decode((string) json_encode($document), true))->areas);
    }

    public function test_irises_are_drawn_to_their_round_edge_and_kept_within_the_lids(): void
    {
        $areas = self::areas();
        foreach (['Left' => 0, 'Right' => 1] as $side => $i) {
            [$iris, $lids] = $areas["{$side} iris"]->outline->shapes;
            self::assertInstanceOf(Ellipse::class, $iris);
            self::assertLessThan(1.2, hypot($iris->centre[0] * 220 - self::IRIS[$i][0], $iris->centre[1] * 220 - self::IRIS[$i][1]));
            self::assertEqualsWithDelta(10.0, $iris->radii[0] * 220, 1.0);
            self::assertInstanceOf(AreaShape::class, $lids);
            self::assertSame([$areas["{$side} lids"]->id, Join::Keep], [$lids->of, $lids->join]);
        }
    }

    public function test_lips_are_drawn_to_their_edge(): void
    {
        $path = self::areas()['Lips']->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);
        foreach ($path->points as $i => $p) {
            $off = abs(hypot(($p->x * 220 - 130) / 32, ($p->y * 220 - 152) / 14) - 1) * 14;
            self::assertLessThan(in_array($i, [0, 6], true) ? 3.0 : 1.6, $off, "point {$i}");
        }
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
        $top = 220 * min(array_map(static fn(PathPoint $p): float => $p->y, $face->points));
        // Brows at 66, the chin at 195: three tenths of that above the brows.
        self::assertEqualsWithDelta(66 - 0.3 * 129, $top, 12);
        $neck = $areas['Neck']->outline->shapes[0];
        self::assertInstanceOf(Ellipse::class, $neck);
        self::assertGreaterThan(195 / 220, $neck->centre[1]);
        self::assertEqualsWithDelta(130 / 220, $neck->centre[0], 0.02);
    }
}
