<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Face;

use Cossel\Core\Face\BestFrames;
use Cossel\Core\Face\Descriptor;
use Cossel\Core\Face\FacePlace;
use Cossel\Core\Face\FacePlaces;
use Cossel\Core\Face\FollowedFace;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Ring;
use Cossel\Core\Face\SeenPerson;
use Cossel\Core\Face\Steadied;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class FaceTest extends TestCase
{
    public function test_a_mesh_is_kept_to_a_fraction_of_a_pixel(): void
    {
        $face = Meshes::face(0.9, 0.4, 0.6, 0.04, 0.1, [0.01, 0.0], 21.5);
        $bytes = $face->bytes();
        self::assertSame(Mesh::BYTES, strlen($bytes));
        $again = Mesh::read($bytes);
        self::assertEqualsWithDelta(21.5, $again->score, 1e-6);
        for ($k = 0; $k < Mesh::POINTS; ++$k) {
            self::assertEqualsWithDelta($face->at($k), $again->at($k), 0.02 / 1080);
        }
        foreach ([static fn() => Mesh::read(substr($bytes, 1)), static fn() => Mesh::of(1.0, [0.0])] as $bad) {
            try {
                $bad();
                self::fail('It was taken.');
            } catch (\InvalidArgumentException $e) {
                self::assertStringContainsString('given', $e->getMessage());
            }
        }
    }

    public function test_eyes_and_lips_tell_how_far_they_are_open_in_their_own_size(): void
    {
        foreach ([0.3, 0.8] as $size) {
            $open = Meshes::face(0.9, 0.5, $size, 0.06, 0.12);
            $shut = Meshes::face(0.9, 0.5, $size, 0.0, 0.0);
            foreach ([true, false] as $left) {
                self::assertEqualsWithDelta(0.06 / 0.16 * (1 + 2 * sin(M_PI * 3 / 8)) / 3, $open->lidsApart($left), 0.002);
                self::assertEqualsWithDelta(0.0, $shut->lidsApart($left), 1e-9);
                self::assertEqualsWithDelta([0.9 + $size * ($left ? 0.2 : -0.2), 0.5 - 0.15 * $size], array_slice($open->iris($left), 0, 2), 1e-9);
            }
            self::assertEqualsWithDelta(0.12 / 0.3, $open->lipsApart(), 1e-9);
            self::assertEqualsWithDelta(0.0, $shut->lipsApart(), 1e-9);
        }
    }

    public function test_the_silhouette_holds_the_whole_face_in_even_steps_from_the_top(): void
    {
        $face = Meshes::face(0.9, 0.5, 0.6);
        $outline = $face->outline(16);
        self::assertCount(16, $outline);
        self::assertEqualsWithDelta([0.9, 0.2], $outline[0], 1e-6);
        $steps = [];
        foreach ($outline as $i => [$x, $y]) {
            [$u, $v] = $outline[($i + 1) % 16];
            $steps[] = hypot($u - $x, $v - $y);
            self::assertEqualsWithDelta(1.0, hypot(($x - 0.9) / 0.27, ($y - 0.5) / 0.3), 0.02);
        }
        self::assertLessThan(1.1, max($steps) / min($steps));
    }

    public function test_what_moves_evenly_or_in_a_curve_stays_what_it_is(): void
    {
        $rows = $truth = [];
        for ($f = 10; $f < 40; ++$f) {
            $rows[$f] = $truth[$f] = [0.3 * $f, 0.02 * ($f - 20) ** 2];
        }
        foreach (Steadied::runs($rows) as $f => $row) {
            self::assertEqualsWithDelta($truth[$f][0], $row[0], 1e-9);
            self::assertEqualsWithDelta($truth[$f][1], $row[1], 0.021, "frame {$f}");
        }
    }

    public function test_what_rests_is_still_and_a_jump_stays_one(): void
    {
        $chance = Chance::seeded(7);
        $rows = $truth = [];
        for ($f = 0; $f < 120; ++$f) {
            foreach (range(0, 19) as $k) {
                $truth[$f][$k] = $f < 60 ? 0.0 : 8.0;
                $rows[$f][$k] = $truth[$f][$k] + $chance->between(-0.87, 0.87);
            }
        }
        $steady = Steadied::runs($rows);
        $second = static function (array $rows, int $from, int $to): float {
            $sum = $n = 0;
            for ($f = $from; $f < $to; ++$f) {
                foreach ($rows[$f] as $k => $v) {
                    $sum += ($rows[$f - 1][$k] - 2 * $v + $rows[$f + 1][$k]) ** 2;
                    ++$n;
                }
            }

            return sqrt($sum / $n);
        };
        self::assertGreaterThan(1.1, $second($rows, 10, 50));
        self::assertLessThan(0.12, $second($steady, 10, 50));
        $off = array_map(static fn(int $f): float => abs(array_sum($steady[$f]) / 20 - $truth[$f][0]), [58, 59, 60, 61]);
        self::assertLessThan(0.9, max($off));
    }

    public function test_runs_are_made_steady_each_for_itself(): void
    {
        $steady = Steadied::runs([3 => [1.0], 4 => [1.0], 5 => [1.0], 9 => [5.0], 10 => [5.0], 11 => [5.0]]);
        self::assertSame([3, 4, 5, 9, 10, 11], array_keys($steady));
        self::assertEqualsWithDelta([[1.0], [5.0]], [$steady[5], $steady[9]], 1e-9);
    }

    public function test_a_face_is_the_same_through_others_and_after_it_was_hidden(): void
    {
        // One goes right and is hidden for ten frames; another, larger, goes left above it.
        $own = static fn(int $f): Mesh => Meshes::face(0.3 + 0.01 * $f, 0.6, 0.3);
        $source = Meshes::source(static function (int $f) use ($own): array {
            $other = Meshes::face(1.4 - 0.01 * $f, 0.35, 0.42);

            return $f >= 30 && $f < 40 ? [$other] : [$other, $own($f)];
        }, [0, 79]);
        $face = FollowedFace::from($source, $own(10), 10);
        self::assertSame([...range(0, 29), ...range(40, 79)], array_keys($face->meshes()));
        foreach ($face->meshes() as $f => $mesh) {
            self::assertEqualsWithDelta($own($f)->middle(), $mesh->middle(), 1e-9, "frame {$f}");
        }
        self::assertEqualsWithDelta($own(55)->along(Ring::OuterLips), $face->steady(Ring::OuterLips->points())[55], 1e-6);
    }

    public function test_a_face_that_was_pointed_out_is_known_on_every_frame(): void
    {
        // Out of sight for ten frames; another is beside it.
        $own = static fn(int $f): Mesh => Meshes::face(0.3 + 0.01 * $f, 0.6, 0.3);
        $other = Meshes::face(1.5, 0.3, 0.3);
        $faces = Meshes::source(static fn(int $f): array => $f >= 30 && $f < 40 ? [$other] : [$other, $own($f)], [0, 59]);
        $places = FacePlaces::pointedOut($faces, [0.45, 0.55], 10);
        self::assertNotNull($places);
        foreach ([0 => 0, 29 => 29, 33 => 29, 37 => 40, 50 => 50, 200 => 59] as $frame => $near) {
            self::assertEquals(FacePlace::of($own($near)), $places->near($frame), "frame {$frame}");
        }
        self::assertEquals($places, FacePlaces::known($places->numbers()));
        self::assertEquals(FacePlace::of($other), FacePlaces::pointedOut($faces, [1.4, 0.4], 10)?->near(30));
        self::assertNull(FacePlaces::pointedOut(Meshes::source(static fn(): array => [], [0, 5]), [0.4, 0.5], 2));
    }

    public function test_the_frames_that_show_teeth_and_eyes_best_are_known(): void
    {
        $face = static fn(int $f): Mesh => Meshes::face(0.3, 0.5, 0.3, [0.05, 0.01, 0.06][$f % 3], $f === 7 ? 0.2 : 0.1);
        // Somebody else laughs more.
        $source = Meshes::source(static fn(int $f): array => [Meshes::face(1.2, 0.5, 0.3, 0.08, 0.3), $face($f)], [0, 9]);
        self::assertSame(['teeth' => 7, 'eyes' => 2], BestFrames::of(FollowedFace::from($source, $face(4), 4)));
        $asleep = Meshes::source(static fn(int $f): array => [Meshes::face(0.3, 0.5, 0.3, 0.01, 0.0)], [0, 9]);
        self::assertSame(['teeth' => null, 'eyes' => null], BestFrames::of(FollowedFace::from($asleep, Meshes::face(0.3, 0.5, 0.3, 0.01, 0.0), 4)));
    }

    public function test_descriptors_tell_how_much_faces_are_alike(): void
    {
        [$one, $near, $far] = array_map(Meshes::descriptor(...), [0.0, 0.5, 1.3]);
        self::assertEqualsWithDelta([1.0, cos(0.5), cos(1.3)], array_map($one->alike(...), [$one, $near, $far]), 0.005);
        self::assertSame([true, false], [$one->apart($near) <= 1.0, $one->apart($far) <= 1.0]);
        self::assertSame([false, true], [$one->isOther($near), $one->isOther($far)]);
        // The mean lies between; brightness tells nothing.
        self::assertEqualsWithDelta([cos(0.65), cos(0.65)], [Descriptor::mean([$one, $far])->alike($one), Descriptor::mean([$one, $far])->alike($far)], 0.005);
        self::assertEqualsWithDelta(1.0, Descriptor::of(str_repeat("\x10", Descriptor::NUMBERS))->alike(Descriptor::of(str_repeat("\xf0", Descriptor::NUMBERS))), 1e-9);
        self::assertEqualsWithDelta(1.0, Descriptor::of($near->bytes())->alike($near), 1e-4);
        $this->expectException(\InvalidArgumentException::class);
        Descriptor::of('short');
    }

    public function test_who_was_away_for_long_is_known_again_wherever_they_come_back(): void
    {
        // Away from frame 10 to 69, back at the other side; somebody else comes in where they were. Every sixth frame tells what faces look like.
        $described = static fn(Mesh $mesh, int $f, float $turn): Mesh => $f % 6 === 0 ? $mesh->described(Meshes::descriptor($turn)) : $mesh;
        $own = static fn(int $f): Mesh => Meshes::face($f < 10 ? 0.4 : 1.4, 0.5, 0.3);
        $source = Meshes::source(static fn(int $f): array => match (true) {
            $f < 10 => [$described($own($f), $f, 0.1)],
            $f < 20 => [],
            $f < 70 => [$described(Meshes::face(0.4, 0.5, 0.3), $f, 1.4)],
            default => [$described(Meshes::face(0.4, 0.5, 0.3), $f, 1.4), $described($own($f), $f, 0.3)],
        }, [0, 89]);
        $face = FollowedFace::from($source, $own(3), 3);
        $back = array_filter($face->meshes(), static fn(int $f): bool => $f >= 70, ARRAY_FILTER_USE_KEY);
        // From the first frame that tells what faces look like.
        self::assertSame(range(72, 89), array_keys($back));
        foreach ($back as $f => $mesh) {
            self::assertEqualsWithDelta($own($f)->middle(), $mesh->middle(), 1e-9);
        }
        // Whoever came in at their place is not taken for them.
        self::assertSame(range(0, 9), array_keys(array_diff_key($face->meshes(), $back)));
        self::assertEqualsWithDelta(1.0, $face->descriptor()?->alike(Meshes::descriptor(0.25)), 0.01);
        self::assertNull(FollowedFace::from(Meshes::source(static fn(int $f): array => [$own(3)], [0, 9]), $own(3), 3)->descriptor());
    }

    public function test_who_is_seen_in_a_shot_is_told_by_what_they_look_like(): void
    {
        // One on every frame, a second from the third frame on, and once something that looks like nobody.
        $descriptors = [];
        foreach (range(0, 60, 6) as $f) {
            $descriptors[$f] = array_map(Meshes::descriptor(...), [...($f === 24 ? [0.785] : []), ...($f >= 12 ? [1.56] : []), 0.005 * ($f % 12)]);
        }
        $seen = SeenPerson::all($descriptors);
        self::assertSame([0, 12], array_map(static fn(SeenPerson $one): int => $one->frame, $seen));
        self::assertEqualsWithDelta([1.0, 1.0], [$seen[0]->descriptor->alike(Meshes::descriptor(0.015)), $seen[1]->descriptor->alike(Meshes::descriptor(1.56))], 0.001);
        $known = SeenPerson::known($seen[1]->document());
        self::assertSame(12, $known->frame);
        self::assertEqualsWithDelta(1.0, $known->descriptor->alike($seen[1]->descriptor), 1e-4);
        // Of one frame all count.
        self::assertCount(2, SeenPerson::all([5 => [Meshes::descriptor(0.0), Meshes::descriptor(1.5)]]));
        self::assertSame([], SeenPerson::all([]));
    }

    public function test_two_who_change_places_stay_who_they_are(): void
    {
        // They change places unseen, between frames that tell what faces look like.
        $source = Meshes::source(static function (int $f): array {
            $isChanged = $f >= 15;
            $faces = [Meshes::face($isChanged ? 1.2 : 0.4, 0.5, 0.3), Meshes::face($isChanged ? 0.4 : 1.2, 0.5, 0.3)];

            return $f % 6 === 0 ? [$faces[0]->described(Meshes::descriptor(0.1)), $faces[1]->described(Meshes::descriptor(1.4))] : $faces;
        }, [0, 39]);
        $face = FollowedFace::from($source, $source->on(0)[0], 0);
        self::assertEqualsWithDelta(0.4, $face->meshes()[12]->at(Mesh::BROW)[0], 1e-9);
        foreach (range(18, 39) as $f) {
            self::assertEqualsWithDelta(1.2, $face->meshes()[$f]->at(Mesh::BROW)[0], 1e-9, "frame {$f}");
        }
    }

    public function test_somebody_else_does_not_take_over(): void
    {
        $source = Meshes::source(static fn(int $f): array => $f < 20 ? [Meshes::face(0.3, 0.5, 0.3)] : [Meshes::face(1.2, 0.5, 0.3)], [0, 39]);
        self::assertSame(range(0, 19), array_keys(FollowedFace::from($source, Meshes::face(0.3, 0.5, 0.3), 5)->meshes()));
    }
}
