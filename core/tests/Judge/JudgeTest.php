<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Judge;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Judge\Waveform;
use Cossel\Core\Judge\Witness;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

final class JudgeTest extends TestCase
{
    public function test_a_waveform_counts_every_pixel_in_its_column_and_level(): void
    {
        $waveform = new Waveform(Rect::of(0, 0, 8, 1), 4, 12);
        $waveform->add(Planes::filled(Rect::of(0, 0, 8, 5), 0.05, 0.05, 0.05));
        $waveform->add(Planes::filled(Rect::of(6, 5, 2, 1), 1.05, 1.05, 1.05));
        $counts = $waveform->counts();
        self::assertSame(42, array_sum($counts));
        // 12 rows over 120 %: 5 % is in the second row from below, 105 % in the topmost.
        self::assertSame(10, $counts[10 * 4]);
        self::assertSame(2, $counts[0 * 4 + 3]);
    }

    public function test_levels_beyond_the_scale_lie_at_its_ends(): void
    {
        $waveform = new Waveform(Rect::of(0, 0, 1, 1), 1, 12);
        $waveform->add(Planes::filled(Rect::of(0, 0, 1, 1), 3.0, 3.0, 3.0));
        $waveform->add(Planes::filled(Rect::of(0, 0, 1, 1), -3.0, -3.0, -3.0));
        self::assertSame([1, 1], [$waveform->counts()[0], $waveform->counts()[11]]);
    }

    public function test_a_witness_holds_the_thing_still_while_it_moves(): void
    {
        $recipe = Documents::read(['areas' => [Documents::area()]]);
        $area = $recipe->areas[0];
        $frame = Rect::of(0, 0, 320, 180);
        $paint = static function (Matrix $motion) use ($frame): Planes {
            $planes = Planes::filled($frame, 0.0, 0.0, 0.0);
            $back = $motion->inverse();
            for ($i = 0; $i < $frame->count(); ++$i) {
                [$u, $v] = $back->apply(($i % 320 + 0.5) / 180, (intdiv($i, 320) + 0.5) / 180);
                $planes->r[$i] = 0.5 + 0.4 * sin($u * 11) * cos($v * 9);
            }

            return $planes;
        };
        $crops = [];
        foreach ([Matrix::identity(), Matrix::about(0.9, 0.5, 6, 0.9, 0.9, -0.15, 0.0)] as $motion) {
            $witness = Witness::of($area, new Motions($recipe, []), $motion, $frame, 40, 36);
            self::assertTrue($frame->contains($witness->needs($frame)));
            self::assertEqualsWithDelta($witness->needs($frame)->height / 36, $witness->pixels(), 0.2 * $witness->pixels());
            $crops[] = $witness->crop($paint($motion))->r;
        }
        foreach ($crops[0] as $i => $value) {
            self::assertEqualsWithDelta($value, $crops[1][$i], 0.02);
        }
        self::assertGreaterThan(0.3, max($crops[0]) - min($crops[0]));
    }

    public function test_a_witness_shows_the_frame_up_to_its_very_edge(): void
    {
        $area = Documents::area();
        $area['outline']['shapes'][0]['centre'] = [0.1, 0.1];
        $recipe = Documents::read(['areas' => [$area]]);
        $frame = Rect::of(0, 0, 320, 180);
        $witness = Witness::of($recipe->areas[0], new Motions($recipe, []), Matrix::identity(), $frame, 40, 36);
        $crop = $witness->crop(Planes::filled($witness->needs($frame), 0.5, 0.5, 0.5));
        // Black beyond the frame, the picture inside, nothing between.
        self::assertEqualsCanonicalizing([0.0, 0.5], array_values(array_unique(array_map(static fn(float $v): float => round($v, 9), $crop->r))));
        $black = count(array_keys($crop->r, 0.0, true)) / count($crop->r);
        $inside = $witness->needs($frame)->count() / $witness->pixels() ** 2 / count($crop->r);
        self::assertEqualsWithDelta(1 - $inside, $black, 0.03);
    }
}
