<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Face\Crowd;
use Cossel\Core\Face\FacePlace;
use Cossel\Core\Face\FacePlaces;
use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Face\PeopleSource;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Tests\Face\Meshes;
use Cossel\Core\Tests\PaintedFrame;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

/** People as a shape: seen on each frame, feathered, grown, and one told from another. */
final class PeopleShapeMatteTest extends TestCase
{
    /** Skin up to the middle of the picture, a wall beyond. */
    private static function half(): Frame
    {
        return PaintedFrame::of(static fn(float $x): array => $x < 0.8 ? [0.7, 0.5, 0.4] : [0.2, 0.3, 0.4], 320, 200);
    }

    /** @param \Closure(float, float): bool $isPerson at a place in picture heights */
    private static function seen(\Closure $isPerson, int $across = 256, int $down = 160): PeopleMatte
    {
        $cells = '';
        for ($k = 0; $k < $across * $down; ++$k) {
            $cells .= $isPerson(($k % $across + 0.5) / $down, (intdiv($k, $across) + 0.5) / $down) ? "\xFF" : "\0";
        }

        return PeopleMatte::of($across, $down, $cells);
    }

    /**
     * @param float $edge where the net has it
     *
     * @return list<float> along the middle row
     */
    private static function row(People $shape, ?Rect $rect = null, float $edge = 0.8): array
    {
        $matte = Still::crowd(new Outline(0, [$shape]), self::half(), self::seen(static fn(float $x): bool => $x < $edge));
        $whole = Rect::of(0, 0, 320, 200);

        return array_slice($matte->matte($rect ?? $whole)->window($whole)->v, 100 * 320, 320);
    }

    /** @param \Closure(int): list<\Cossel\Core\Face\Mesh> $faces on frames 0 to 6; people are seen everywhere */
    private static function source(\Closure $faces): PeopleSource
    {
        return new class (self::seen(static fn(): bool => true), Meshes::source($faces, [0, 6])) implements PeopleSource {
            public function __construct(private readonly PeopleMatte $all, private readonly FaceSource $faces) {}

            public function matte(int $frame): PeopleMatte
            {
                return $this->all;
            }

            public function faces(int $from, int $to): FaceSource
            {
                return $this->faces;
            }

            public function places(array $place, int $frame): ?FacePlaces
            {
                return FacePlaces::pointedOut($this->faces, $place, $frame);
            }
        };
    }

    public function test_its_edge_is_the_picture_s(): void
    {
        // The net has it two and a half pixels too narrow: it has ended where the picture's edge is.
        $row = self::row(new People('s'), edge: 0.7875);
        self::assertGreaterThan(0.65, $row[157]);
        self::assertLessThan(0.1, $row[163]);
        self::assertSame(1.0, $row[20]);
        self::assertSame(0.0, $row[300]);
    }

    public function test_grown_and_feathered_it_falls_off_as_other_shapes_do(): void
    {
        foreach ([[0.0, 0.06, 0.0], [0.04, 0.08, 0.05], [0.03, 0.03, -0.06], [0.0, 0.0, 0.04]] as [$in, $out, $grow]) {
            $row = self::row(new People('s', null, $in, $out, $grow));
            $wide = max(1.0, 200 * ($in + $out));
            for ($x = 120; $x < 200; ++$x) {
                $t = max(0.0, min(1.0, ($x + 0.5 - 160 - 200 * $grow + 200 * $in + ($in + $out === 0.0 ? 0.5 : 0.0)) / $wide));
                // Where nothing of it is soft a pixel to either side is left to the edge itself.
                $off = $in + $out === 0.0 ? ($t > 0 && $t < 1 ? 1.0 : 0.4) : 0.13;
                self::assertEqualsWithDelta(1 - $t * $t * (3 - 2 * $t), $row[$x], $off, "{$in} {$out} {$grow} at {$x}");
            }
        }
        self::assertSame(0.5, self::row(new People('s', opacity: 0.5))[20]);
    }

    public function test_what_a_net_hardly_doubts_is_whole_and_what_it_hardly_suspects_nothing(): void
    {
        $cells = str_repeat(str_repeat("\xB4", 128) . str_repeat("\x18", 128), 160);
        $matte = Still::crowd(new Outline(0, [new People('s')]), self::half(), PeopleMatte::of(256, 160, $cells))->matte(Rect::of(0, 0, 320, 200));
        self::assertSame([1.0, 0.0], [$matte->at(40, 100), $matte->at(280, 100)]);
        $half = Still::crowd(new Outline(0, [new People('s')]), self::half(), PeopleMatte::of(256, 160, str_repeat("\x66", 256 * 160)));
        self::assertEqualsWithDelta(0.5, $half->matte(Rect::of(0, 0, 320, 200))->at(40, 100), 0.02);
    }

    public function test_it_is_the_same_seen_through_any_window(): void
    {
        $piece = Rect::of(156, 60, 16, 80);
        foreach ([new People('s'), new People('s', null, 0.02, 0.04, 0.01)] as $shape) {
            $whole = self::row($shape);
            foreach (self::row($shape, $piece) as $x => $v) {
                self::assertEqualsWithDelta($x < 156 || $x >= 172 ? 0.0 : $whole[$x], $v, 1e-9);
            }
        }
    }

    public function test_it_has_bounds_and_joins_with_others(): void
    {
        $picture = self::half();
        $frame = $picture->format->rect();
        $nobody = Still::crowd(new Outline(0, [new People('s')]), $picture, self::seen(static fn(): bool => false));
        self::assertTrue($nobody->bounds()->isEmpty());
        self::assertSame(0.0, max($nobody->matte($frame)->v));
        $seen = self::seen(static fn(float $x): bool => $x < 0.7875);
        self::assertLessThan(180, Still::crowd(new Outline(0, [new People('s')]), $picture, $seen)->bounds()->right());
        self::assertGreaterThan(200, Still::crowd(new Outline(0, [new People('s', grow: 0.2)]), $picture, $seen)->bounds()->right());
        $round = Still::crowd(new Outline(0, [new People('s')], invert: true), $picture, $seen)->matte($frame);
        self::assertSame([0.0, 1.0], [$round->at(20, 100), $round->at(300, 100)]);
        $kept = Still::crowd(new Outline(0, [new Ellipse('e', [0.8, 0.5], [0.3, 0.3]), new People('s', join: Join::Keep)]), $picture, $seen)->matte($frame);
        self::assertSame([0.0, 1.0, 0.0], [$kept->at(20, 100), $kept->at(130, 100), $kept->at(200, 100)]);
        // A follower is shown what is drawn alone.
        self::assertCount(1, (new Outline(0, [new People('s'), new Ellipse('e', [0.8, 0.5], [0.3, 0.3])]))->hard(0.0)->shapes);
    }

    public function test_one_person_is_told_from_another_and_followed(): void
    {
        // Two who go to the right; the one pointed out is the left of them, who is out of sight on frame 4. The other is not noticed on 3.
        $faces = static fn(int $frame): array => $frame < 0 || $frame > 6 ? [] : [
            ...($frame === 4 ? [] : [Meshes::face(0.4 + 0.05 * $frame, 0.3, 0.2)]),
            ...($frame === 3 ? [] : [Meshes::face(1.0 + 0.05 * $frame, 0.3, 0.2)]),
        ];
        $source = self::source($faces);
        $shape = ['id' => 's', 'kind' => 'people', 'place' => [0.42, 0.3]];
        $recipe = Documents::read(['areas' => [Documents::area(['id' => 'a', 'outline' => ['at' => 0, 'shapes' => [$shape]]])]]);
        $motions = new Motions($recipe, [], new Crowd($source));
        foreach ([0 => 0.7, 2 => 0.8, 3 => 0.825, 4 => 0.875] as $number => $between) {
            $people = $motions->people($recipe->areas[0], new People('s', [0.42, 0.3]), $number);
            self::assertNotNull($people);
            foreach ([24, 120] as $row) {
                $cells = array_slice($people->cells, $row * 256, 256);
                self::assertEqualsWithDelta($between * 160, count(array_filter($cells)), 2, "frame {$number}, row {$row}");
                self::assertSame(255, $cells[0]);
            }
        }
        // Pointed at the other.
        $other = $motions->people($recipe->areas[0], new People('s', [1.1, 0.5]), 0)->cells ?? [];
        self::assertSame([0, 255], [$other[0], $other[255]]);
        self::assertSame(256 * 160, count(array_filter($motions->people($recipe->areas[0], new People('s'), 0)->cells ?? [])));
        self::assertTrue(AreaMatte::on($recipe->areas[0], 0, new Motions($recipe, []), Rect::of(0, 0, 320, 200))->bounds()->isEmpty());
    }

    public function test_somebody_who_went_behind_does_not_take_a_share_of_who_is_meant(): void
    {
        // Nobody is seen on frame 4; the other was last seen behind the one who is meant.
        $own = Meshes::face(0.5, 0.3, 0.3);
        $source = self::source(static fn(int $frame): array => match ($frame) {
            4 => [],
            2, 3 => [$own, Meshes::face([2 => 0.75, 3 => 0.62][$frame], 0.3, 0.3)],
            default => [$own],
        });
        $count = static fn(int $frame): int => count(array_filter((new Crowd($source))->matte($frame, [0.5, 0.3], 0)->cells));
        self::assertSame(256 * 160, $count(4));
        self::assertLessThan(128 * 160, $count(2));
    }

    public function test_bodies_are_below_their_faces(): void
    {
        $all = self::seen(static fn(): bool => true);
        $tall = new FacePlace(0.7, 0.25, 0.2);
        $people = $all->person(new FacePlace(0.4, 0.7, 0.2), [$tall]);
        $at = static fn(float $x, float $y): int => $people->cells[(int) ($y * 160) * 256 + (int) ($x * 160)];
        self::assertSame([255, 0, 0], [$at(0.4, 0.75), $at(0.7, 0.75), $at(0.7, 0.25)]);
        self::assertSame($all, $all->person($tall, []));
    }

    public function test_it_is_read_and_written(): void
    {
        $shape = ['id' => 's', 'kind' => 'people', 'join' => 'add', 'place' => [0.4, 0.3], 'featherIn' => 0.01, 'featherOut' => 0.02, 'grow' => -0.01, 'opacity' => 0.5, 'keys' => [['frame' => 3, 'grow' => 0.1, 'ease' => 'smooth']]];
        $recipe = Documents::read(['areas' => [Documents::area(['id' => 'a', 'outline' => ['at' => 0, 'shapes' => [$shape, ['id' => 't', 'kind' => 'people']]]])]]);
        $written = (new RecipeWriter())->write($recipe)['areas'][0]['outline']['shapes'];
        self::assertEquals($shape, $written[0]);
        self::assertNull($written[1]['place']);
        self::assertSame(0.1, $recipe->areas[0]->outline->shapes[0]->at(3)->grow);
        foreach ([['place' => [99, 0]], ['motion' => ['by' => 'none']], ['featherIn' => 2]] as $wrong) {
            try {
                Documents::read(['areas' => [Documents::area(['id' => 'a', 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'people', ...$wrong]]]])]]);
                self::fail('It was read: ' . json_encode($wrong));
            } catch (InvalidRecipe $e) {
                self::assertStringContainsString('/areas/0/outline/shapes/0', $e->getMessage());
            }
        }
        $this->expectException(\InvalidArgumentException::class);
        PeopleMatte::of(3, 2, 'ab');
    }
}
