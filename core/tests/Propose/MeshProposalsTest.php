<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Propose;

use Cossel\Core\Face\Mesh;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\HeldOutline;
use Cossel\Core\Propose\Landmarks;
use Cossel\Core\Propose\Person;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Propose\Smooth;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Tests\Face\Meshes;
use Cossel\Core\Tests\Motion\Painted;
use PHPUnit\Framework\TestCase;

/** What is proposed where a mesh lies on the face. */
final class MeshProposalsTest extends TestCase
{
    private const ROWS = 240;
    private const SIZE = 0.8;

    private static function mesh(float $lids = 0.08, float $score = 25.0): Mesh
    {
        return Meshes::face(0.75, 0.45, self::SIZE, $lids, 0.0, [0.0, 0.0], $score);
    }

    /** A face whose irises lie so much beside the mesh's, in pixels, and stand out by so much; a neck so wide, in picture heights; irises so much larger. */
    private static function picture(float $beside, float $contrast, float $neck = 0.3, bool $open = true, float $larger = 1.0): Painted
    {
        return (new Painted(static function (int $f, float $x, float $y) use ($beside, $contrast, $neck, $open, $larger): array {
            [$u, $v] = [$x / self::ROWS, $y / self::ROWS];
            foreach ($open ? Meshes::EYES : [] as [$ex, $ey]) {
                [$cx, $cy] = [0.75 + self::SIZE * $ex, 0.45 + self::SIZE * $ey];
                $d = hypot($x - $cx * self::ROWS - $beside, $y - $cy * self::ROWS);
                if ((($u - $cx) / 0.064) ** 2 + (($v - $cy) / 0.032) ** 2 < 1) {
                    return $d < 3 * $larger ? [0.62 - 0.6 * $contrast, 0.6 - 0.58 * $contrast, 0.6 - 0.58 * $contrast] : ($d < 7 * $larger ? [0.62 - 0.4 * $contrast, 0.6 - 0.35 * $contrast, 0.6 - 0.3 * $contrast] : [0.62, 0.6, 0.6]);
                }
            }
            if ((($u - 0.75) / 0.12) ** 2 + (($v - 0.65) / 0.04) ** 2 < 1) {
                return [0.5, 0.22, 0.22];
            }
            $isFace = (($u - 0.75) / 0.36) ** 2 + (($v - 0.45) / 0.4) ** 2 < 1;

            return $isFace || (abs($u - 0.75) < $neck / 2 && $v > 0.6) ? [0.7, 0.5, 0.4] : [0.2, 0.25, 0.3];
        }, 360, self::ROWS))->kept();
    }

    private static function found(Painted $picture, Mesh $mesh): ?FoundPerson
    {
        $n = 0;

        return Person::found($picture, [Landmarks::ofMesh($mesh)], 0, new Live(0, 9), static function (string $letter) use (&$n): string {
            return $letter . ++$n;
        })[0] ?? null;
    }

    private static function named(?FoundPerson $person, string $name): Proposal
    {
        foreach ($person->proposals ?? [] as $proposal) {
            if ($proposal->area->name === $name) {
                return $proposal;
            }
        }
        self::fail("{$name} is not proposed.");
    }

    /** How far the iris of an eye is from where the mesh says, to the right, pixels. */
    private static function beside(Proposal $iris): float
    {
        $shape = $iris->area->outline->shapes[0];
        self::assertInstanceOf(Ellipse::class, $shape);

        return ($shape->centre[0] - 0.75 - self::SIZE * Meshes::EYES[1][0]) * self::ROWS;
    }

    public function test_a_clear_iris_is_where_it_is_seen_and_a_faint_one_nearer_to_the_mesh(): void
    {
        self::assertEqualsWithDelta(2.0, self::beside(self::named(self::found(self::picture(2.0, 1.0), self::mesh()), 'Left iris')), 0.4);
        self::assertLessThan(0.5, abs(self::beside(self::named(self::found(self::picture(2.0, 0.15), self::mesh()), 'Left iris'))));
    }

    public function test_an_iris_larger_or_smaller_than_the_mesh_says_is_seen_as_large_as_it_is(): void
    {
        foreach ([0.85, 1.0, 1.35] as $larger) {
            $shape = self::named(self::found(self::picture(3.0, 1.0, larger: $larger), self::mesh()), 'Left iris')->area->outline->shapes[0];
            self::assertInstanceOf(Ellipse::class, $shape);
            self::assertEqualsWithDelta(7 * $larger, $shape->radii[0] * self::ROWS, 0.25, "{$larger}");
        }
    }

    public function test_what_is_round_elsewhere_in_the_eye_is_not_taken_for_the_iris(): void
    {
        self::assertLessThan(1.5, abs(self::beside(self::named(self::found(self::picture(6.0, 1.0), self::mesh()), 'Left iris'))));
    }

    public function test_what_the_picture_hardly_shows_is_proposed_where_the_mesh_is_sure(): void
    {
        $person = self::found(self::picture(0.0, 0.0), self::mesh());
        foreach (['Left lids', 'Right lids', 'Left iris', 'Right iris', 'Lips'] as $name) {
            self::assertNull(self::named($person, $name)->doubt, $name);
        }
        // A mesh that is hardly one does not stand for what is not seen.
        $hardly = self::found(self::picture(0.0, 0.0, 0.3, false), self::mesh(0.08, 9.0));
        self::assertNotNull(self::named($hardly, 'Left lids')->doubt);
        self::assertStringContainsString('something may be before it', (string) self::named($hardly, 'Face')->doubt);
    }

    public function test_eyes_of_a_face_that_is_outside_the_frame_ride_on_what_is_round_them(): void
    {
        // The same eyes, in a face three times as large as the frame shows.
        $mesh = self::mesh();
        $places = [];
        for ($k = 0; $k < Mesh::POINTS; ++$k) {
            [$x, $y] = $mesh->at($k);
            $isBorder = hypot(($x - 0.75) / 0.36, ($y - 0.45) / 0.4) > 0.9;
            array_push($places, ...[...($isBorder ? [0.75 + 3 * ($x - 0.75), 0.45 + 3 * ($y - 0.45)] : [$x, $y]), 0.0]);
        }
        $person = self::found(self::picture(0.0, 1.0), Mesh::of(25.0, $places));
        self::assertNotNull($person);
        self::assertFalse($person->whole);
        $carrier = $person->proposals[0]->area;
        self::assertSame('Brows and nose bridge', $carrier->name);
        self::assertSame($carrier->id, self::named($person, 'Left lids')->area->motion->on);
    }

    public function test_closed_lids_are_told(): void
    {
        $person = self::found(self::picture(0.0, 0.0, 0.3, false), self::mesh(0.01));
        self::assertSame('the eye is closed', self::named($person, 'Left iris')->doubt);
        self::assertSame('the eye is closed', self::named($person, 'Right lids')->doubt);
    }

    public function test_a_face_is_outlined_by_its_silhouette_and_a_neck_as_wide_as_skin_is_seen(): void
    {
        $face = self::named(self::found(self::picture(0.0, 1.0), self::mesh()), 'Face')->area->outline->shapes[0];
        self::assertInstanceOf(Path::class, $face);
        foreach ($face->points as $p) {
            self::assertEqualsWithDelta(1.0, hypot(($p->x - 0.75) / 0.36, ($p->y - 0.45) / 0.4), 0.03);
        }
        // Brows that lie low leave a forehead that the mesh does not reach the end of.
        $places = [];
        for ($k = 0; $k < Mesh::POINTS; ++$k) {
            [$x, $y] = self::mesh()->at($k);
            array_push($places, $x, in_array($k, [70, 63, 105, 66, 107, 336, 296, 334, 293, 300], true) ? 0.36 : max(0.32, $y), 0.0);
        }
        $short = self::named(self::found(self::picture(0.0, 1.0), Mesh::of(25.0, $places)), 'Face')->area->outline->shapes[0];
        self::assertInstanceOf(Path::class, $short);
        self::assertLessThan(0.25, min(array_map(static fn(PathPoint $p): float => $p->y, $short->points)));
        $widths = [];
        foreach ([0.24, 0.5] as $wide) {
            $neck = self::named(self::found(self::picture(0.0, 1.0, $wide), self::mesh()), 'Neck');
            self::assertNull($neck->doubt);
            $shape = $neck->area->outline->shapes[0];
            self::assertInstanceOf(Path::class, $shape);
            $low = array_map(static fn(PathPoint $p): float => $p->x, array_slice($shape->points, -2));
            // It begins at the jaw and not on the cheek.
            foreach ($shape->points as $p) {
                self::assertGreaterThan(0.9, hypot(($p->x - 0.75) / 0.36, ($p->y - 0.45) / 0.4));
            }
            $widths[] = abs($low[0] - $low[1]);
        }
        self::assertEqualsWithDelta(0.24, $widths[0], 0.07);
        self::assertSame('hardly any skin is seen under the chin', self::named(self::found(self::picture(0.0, 1.0, 0.0), self::mesh()), 'Neck')->doubt);
        self::assertGreaterThan($widths[0] + 0.1, $widths[1]);
    }

    public function test_an_outline_lies_on_a_sharp_edge_and_is_held_to_the_landmarks_over_a_soft_one(): void
    {
        $mesh = self::mesh();
        $path = static fn(float $low): array => Smooth::path(array_map(static fn(array $p): array => [$p[0] * self::ROWS, $p[1] * self::ROWS + ($p[1] > 0.65 ? $low : 0.0)], array_map($mesh->at(...), [61, 39, 37, 0, 267, 269, 291, 405, 314, 17, 84, 181])), [0, 6]);
        $edge = self::ROWS * (0.65 + 0.04) + 3.0;
        foreach ([[0.5, 2.4, 3.3], [14.0, 0.0, 1.8]] as [$soft, $least, $most]) {
            $picture = new Painted(static function (int $f, float $x, float $y) use ($edge, $soft): array {
                $in = 1 / (1 + exp(($y - $edge) / $soft));

                return [0.7 - 0.2 * $in, 0.5 - 0.28 * $in, 0.4 - 0.18 * $in];
            }, 360, self::ROWS);
            $held = HeldOutline::of($picture, 0, $path(3.0), $path(0.0));
            $moved = $held[9]->y - $path(0.0)[9]->y;
            self::assertGreaterThanOrEqual($least, $moved);
            self::assertLessThan($most, $moved);
        }
        // One point that goes its own way comes back to the others.
        $spiked = $path(3.0);
        $spiked[9] = $spiked[9]->by(0.0, 40.0);
        $sharp = new Painted(static fn(int $f, float $x, float $y): array => $y < $edge ? [0.5, 0.22, 0.22] : [0.7, 0.5, 0.4], 360, self::ROWS);
        self::assertLessThan(6.0, HeldOutline::of($sharp, 0, $spiked, $path(0.0))[9]->y - $path(0.0)[9]->y);
    }
}
