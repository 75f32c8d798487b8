<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Propose;

use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Ring;
use Cossel\Core\Motion\PathShape;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Propose\Region;
use Cossel\Core\Propose\SkinParts;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Recipe\Source;
use Cossel\Core\Tests\Motion\Painted;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\TestCase;

/** Parts of the skin by name, on meshes that were measured on the demo's heads: one nearly from in front, one turned by 45 degrees. */
final class SkinPartsTest extends TestCase
{
    private const FRONT = 'gh040_skin.24';
    private const TURNED = 'turn_ruta.24';

    private static function mesh(string $name): Mesh
    {
        return Mesh::read((string) file_get_contents(dirname(__DIR__) . "/Face/data/{$name}.mesh"));
    }

    private static function area(string $id, Part $part, ?string $on = null): Area
    {
        $motion = $on === null ? new Motion(pivot: [0.9, 0.4]) : new Motion(Motion::RIDE, on: $on);

        return new Area($id, $id, $part->value, null, true, new Outline(0, []), $motion, new Live(0, 9), new Keyed(1.0), new BlinkGuard(), []);
    }

    /**
     * @param list<Proposal> $on
     *
     * @return array<string, Area> by name
     */
    private static function parts(Mesh $mesh, array $on = [], ?\Closure $stretched = null, int $width = 320): array
    {
        $n = 0;
        $picture = new Painted(static fn(): array => [0.5, 0.5, 0.5], $width, 180);
        $parts = new SkinParts($picture, $mesh, 0, new Live(0, 9), static function (string $letter) use (&$n): string {
            return $letter . ++$n;
        });

        return array_column(array_map(static fn(Proposal $p): Area => $p->area, $parts->proposed(self::area('face', Part::Face), $on, $stretched ?? static fn(array $p): array => $p)), null, 'name');
    }

    /** @return list<array{float, float}> the line round a part */
    private static function line(Area $area): array
    {
        $path = $area->outline->shapes[0];
        self::assertInstanceOf(Path::class, $path);

        return Contour::along($path->points, 6);
    }

    /** @return array{float, float} */
    private static function middle(Area $area): array
    {
        $line = self::line($area);

        return [array_sum(array_column($line, 0)) / count($line), array_sum(array_column($line, 1)) / count($line)];
    }

    public function test_each_part_lies_where_its_name_says(): void
    {
        $mesh = self::mesh(self::FRONT);
        $parts = self::parts($mesh);
        self::assertSame(['Skin', ...array_map(static fn(Region $r): string => $r->title(), Region::cases())], array_keys($parts));
        $holds = static fn(string $part, int $point): bool => Contour::holds(self::line($parts[$part]), ...$mesh->at($point));
        // The tip of the nose; the middle of the forehead above the brows; the chin's front; both cheekbones; hairs of both brows.
        foreach (['Nose' => 4, 'Chin and jaw' => 175, 'Left cheek' => 280, 'Right cheek' => 50, 'Left brow' => 334, 'Right brow' => 105] as $part => $point) {
            self::assertTrue($holds($part, $point) || $part === 'Left brow' || $part === 'Right brow', $part);
            [$x, $y] = self::middle($parts[$part]);
            self::assertLessThan(0.12 * $mesh->size(), hypot($x - $mesh->at($point)[0], $y - $mesh->at($point)[1]), $part);
        }
        foreach ([true, false] as $left) {
            $side = $left ? 'left' : 'right';
            $lids = $mesh->along(Ring::lids($left));
            [$x, $y] = self::middle($parts["Under the {$side} eye"]);
            $lowest = max(array_column($lids, 1));
            self::assertGreaterThan(min(array_column($lids, 0)), $x);
            self::assertLessThan(max(array_column($lids, 0)), $x);
            self::assertGreaterThan($lowest, $y);
            self::assertLessThan($lowest + 0.1 * $mesh->size(), $y);
            // None of the eye itself.
            foreach ($lids as $p) {
                self::assertFalse(Contour::holds(self::line($parts["Under the {$side} eye"]), ...$p));
            }
            self::assertLessThan(self::middle($parts["Under the {$side} eye"])[1], self::middle($parts[ucfirst("{$side} brow")])[1]);
        }
        self::assertLessThan(self::middle($parts['Left brow'])[1], self::middle($parts['Forehead'])[1]);
        // The person's left is on the right of the picture.
        foreach (['cheek', 'brow'] as $part) {
            self::assertGreaterThan(self::middle($parts["Right {$part}"])[0], self::middle($parts["Left {$part}"])[0]);
        }
        foreach ($mesh->along(Ring::OuterLips) as $p) {
            self::assertFalse(Contour::holds(self::line($parts['Chin and jaw']), ...$p));
        }
        foreach ($parts as $name => $area) {
            self::assertSame(Motion::RIDE, $area->motion->by, $name);
            self::assertSame('face', $area->motion->on, $name);
        }
    }

    public function test_all_of_it_can_be_taken_into_a_recipe(): void
    {
        $areas = [self::area('face', Part::Face), ...array_values(self::parts(self::mesh(self::FRONT)))];
        $recipe = new Recipe(new Source(str_repeat('a', 64), [0, 9], '24/1', [1600, 900]), areas: $areas);
        $read = (new RecipeReader(Kinds::all()))->read(json_decode((new RecipeWriter())->json($recipe), true));
        self::assertSame(array_column($areas, 'part'), array_column($read->areas, 'part'));
    }

    public function test_no_part_is_folded(): void
    {
        foreach ([self::FRONT, self::TURNED] as $name) {
            foreach (self::parts(self::mesh($name)) as $area) {
                $path = $area->outline->shapes[0];
                // The far end of a jaw turned by 45 degrees may cross itself, by less than its feather.
                if ($path instanceof Path && ($name === self::FRONT || $area->name !== 'Chin and jaw')) {
                    $turns = 0.0;
                    $line = self::line($area);
                    foreach ($line as $i => [$x, $y]) {
                        [[$u, $v], [$p, $q]] = [$line[($i + 1) % count($line)], $line[($i + 2) % count($line)]];
                        $turns += atan2(($u - $x) * ($q - $v) - ($v - $y) * ($p - $u), ($u - $x) * ($p - $u) + ($v - $y) * ($q - $v));
                    }
                    self::assertEqualsWithDelta(1.0, abs($turns) / (2 * M_PI), 0.01, "{$name}: {$area->name}");
                }
            }
        }
    }

    public function test_what_is_turned_away_or_outside_the_frame_is_not_offered(): void
    {
        $parts = self::parts(self::mesh(self::TURNED));
        self::assertArrayHasKey('Nose', $parts);
        $cheeks = array_values(array_filter(array_keys($parts), static fn(string $name): bool => str_ends_with($name, 'cheek')));
        self::assertCount(1, $cheeks);
        $narrow = self::parts(self::mesh(self::FRONT), [], null, (int) (180 * self::middle(self::parts(self::mesh(self::FRONT))['Nose'])[0]));
        self::assertArrayNotHasKey('Left cheek', $narrow);
        self::assertArrayHasKey('Right cheek', $narrow);
    }

    public function test_skin_is_the_face_without_what_is_none(): void
    {
        $on = [
            new Proposal(self::area('lids', Part::Lids, 'face')),
            new Proposal(self::area('iris', Part::Iris, 'face')),
            new Proposal(self::area('lips', Part::Lips, 'face')),
            new Proposal(self::area('teeth', Part::Teeth, 'face'), 'the mouth is closed'),
        ];
        $parts = self::parts(self::mesh(self::FRONT), $on);
        $shapes = $parts['Skin']->outline->shapes;
        $said = array_map(static fn(Shape $s): array => [$s instanceof AreaShape ? $s->of : 'path', $s->join], $shapes);
        self::assertSame([['face', Join::Add], ['lids', Join::Cut], ['lips', Join::Cut], ['path', Join::Cut], ['path', Join::Cut]], $said);
        $brow = $shapes[3];
        self::assertInstanceOf(Path::class, $brow);
        self::assertEqualsWithDelta(self::middle($parts['Left brow'])[0], array_sum(array_map(static fn(PathPoint $p): float => $p->x, $brow->points)) / count($brow->points), 0.01);
        self::assertSame(count(array_unique(array_map(static fn(Shape $s): string => $s->id, $shapes))), count($shapes));
    }

    public function test_the_forehead_reaches_up_to_the_hairline(): void
    {
        $up = static fn(array $places): array => array_map(static fn(array $p): array => [$p[0], $p[1] - 0.05], $places);
        $mesh = self::mesh(self::FRONT);
        self::assertEqualsWithDelta(self::middle(self::parts($mesh)['Forehead'])[1] - 0.05, self::middle(self::parts($mesh, [], $up)['Forehead'])[1], 1e-5);
        $size = static fn(Area $area): float => PathShape::area($area->outline->shapes[0] instanceof Path ? $area->outline->shapes[0]->points : []);
        self::assertEqualsWithDelta($size(self::parts($mesh)['Nose']), $size(self::parts($mesh, [], $up)['Nose']), 1e-9);
    }
}
