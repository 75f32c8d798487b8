<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\EllipseMatte;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Grain;
use Cossel\Core\Touch\Internal\GrainTile;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;
use PHPUnit\Framework\TestCase;

final class GrainTest extends TestCase
{
    public function test_a_small_spot_gets_its_grain_back_amid_skin_that_has_it(): void
    {
        [$width, $height, $radius] = [120, 1000, 12];
        $random = Chance::seeded(4);
        $format = new FrameFormat($width, $height, Layout::Rgb);
        $noise = [];
        for ($i = 0; $i < $width * $height; ++$i) {
            // The sum of four is nearly normal, as grain is.
            $sum = array_sum([$random->between(-0.012, 0.012), $random->between(-0.012, 0.012), $random->between(-0.012, 0.012), $random->between(-0.012, 0.012)]);
            $noise[] = (int) round($format->black() + $format->lumaSpan() * (0.5 + $sum));
        }
        $plane = pack('v*', ...$noise);
        $frame = new Frame($format, $plane . $plane . $plane);
        $placed = EllipseMatte::on(new Ellipse('s', [0.06, 0.5], [$radius / $height, $radius / $height], featherOut: 0.004), Matrix::identity(), $height);
        $matte = $placed->matte($placed->bounds());
        $planes = $frame->window($format->rect());
        foreach ($matte->rect->rowsIn($planes->rect) as $j => $i) {
            for ($x = 0; $x < $matte->rect->width; ++$x) {
                if ($matte->v[$j + $x] > 0.0) {
                    [$planes->r[$i + $x], $planes->g[$i + $x], $planes->b[$i + $x]] = [0.5, 0.5, 0.5];
                }
            }
        }
        $site = new Site(0, $frame, extent: new Extent(Matrix::identity(), 0.06, 0.5, $radius / $height, $radius / $height), bounds: $matte->rect);
        $survey = (new Grain())->prepare(['level' => 1.0], $site);
        self::assertInstanceOf(Survey::class, $survey);
        $survey->effect(AreaPicture::of($survey->sees()->intersect($planes->rect), $survey->block(), $planes, $matte))->apply($planes, Weight::inside($matte, 1.0));

        $spread = static function (int $middle) use ($planes): float {
            $values = [];
            foreach (GrainTile::grain(Luma::of($planes, $planes->rect)) as $i => $v) {
                if (hypot($i % 120 + 0.5 - 60, intdiv($i, 120) + 0.5 - $middle) < 9) {
                    $values[] = $v * $v;
                }
            }

            return sqrt(array_sum($values) / count($values));
        };
        self::assertEqualsWithDelta(1.0, $spread(500) / $spread(300), 0.15);
    }

    public function test_no_blotches_come_with_grain(): void
    {
        foreach ([[-0.3, 0.09], [0.2, 0.15], [0.6, 0.25]] as [$likeness, $most]) {
            $tile = GrainTile::like($likeness)->values;
            $blocks = [];
            foreach ($tile as $i => $v) {
                $at = intdiv($i, GrainTile::SIDE * 8) * 16 + intdiv($i % GrainTile::SIDE, 8);
                $blocks[$at] = ($blocks[$at] ?? 0.0) + $v / 64;
            }
            $spread = static fn(array $v): float => sqrt(array_sum(array_map(static fn(float $x): float => $x * $x, $v)) / count($v));
            self::assertLessThan($most, $spread($blocks) / $spread($tile), "{$likeness}");
        }
    }
}
