<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Colour\YuvMatrix;
use Cossel\Core\Picture\Beyond;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class BeyondTest extends TestCase
{
    /** @return iterable<string, array{FrameFormat}> */
    public static function formats(): iterable
    {
        foreach ([YuvMatrix::Bt709, YuvMatrix::Bt601] as $matrix) {
            foreach ([false, true] as $full) {
                yield "Y'CbCr {$matrix->value}" . ($full ? ', full' : '') => [new FrameFormat(300, 40, Layout::Yuv, $matrix, $full)];
            }
        }
        yield 'RGB' => [new FrameFormat(300, 40, Layout::Rgb, fullRange: true)];
    }

    /** A calm frame with patches of any light and colour, and single pixels of any value. */
    private static function frame(FrameFormat $format, int $seed): Frame
    {
        $chance = Chance::seeded($seed);
        $yuv = $format->layout === Layout::Yuv;
        $n = $format->width * $format->height;
        $planes = [array_fill(0, $n, 30000), array_fill(0, $n, $yuv ? 32768 : 30000), array_fill(0, $n, $yuv ? 32768 : 30000)];
        for ($patch = 0; $patch < 3; ++$patch) {
            [$x, $y, $w, $h] = [$chance->whole(0, 280), $chance->whole(0, 36), $chance->whole(1, 40), $chance->whole(1, 6)];
            $spread = $chance->whole(0, 1) === 0 ? 1500 : 14000;
            $values = [$chance->whole(0, 65535), $yuv ? 32768 + $chance->whole(-$spread, $spread) : $chance->whole(0, 65535), $yuv ? 32768 + $chance->whole(-$spread, $spread) : $chance->whole(0, 65535)];
            for ($j = $y; $j < min($format->height, $y + $h); ++$j) {
                for ($i = $x; $i < min($format->width, $x + $w); ++$i) {
                    foreach ($values as $k => $v) {
                        $planes[$k][$j * $format->width + $i] = $v;
                    }
                }
            }
        }

        return new Frame($format, pack('v*', ...array_merge(...$planes)));
    }

    #[DataProvider('formats')]
    public function test_every_pixel_with_a_channel_beyond_is_inside(FrameFormat $format): void
    {
        $beyond = 0;
        $told = 0;
        for ($seed = 1; $seed <= 6; ++$seed) {
            $frame = self::frame($format, $seed);
            [$low, $high] = [0.01 * $seed, 1.06 - 0.01 * $seed];
            $rects = Beyond::of($frame, $low, $high);
            $told += array_sum(array_map(static fn(Rect $r): int => $r->count(), $rects));
            $planes = $frame->window($format->rect());
            foreach ($planes->r as $i => $r) {
                if (min($r, $planes->g[$i], $planes->b[$i]) < $low || max($r, $planes->g[$i], $planes->b[$i]) > $high) {
                    ++$beyond;
                    $pixel = Rect::of($i % $format->width, intdiv($i, $format->width), 1, 1);
                    self::assertNotSame([], array_filter($rects, static fn(Rect $rect): bool => $rect->contains($pixel)), "seed {$seed}, pixel {$i}");
                }
            }
        }
        self::assertGreaterThan(20, $beyond);
        self::assertLessThan(6 * $format->rect()->count(), $told, 'not all of all');
    }

    public function test_no_code_values_just_beyond_are_taken_for_within(): void
    {
        // Flat frames of every luma and of colours all round, a hair inside and outside.
        $beyond = $within = 0;
        foreach ([YuvMatrix::Bt709, YuvMatrix::Bt601] as $matrix) {
            $format = new FrameFormat(4, 1, Layout::Yuv, $matrix);
            for ($angle = 0; $angle < 360; $angle += 15) {
                foreach ([300, 1500, 4000, 6500, 11000] as $chroma) {
                    [$u, $v] = [32768 + (int) round($chroma * cos(deg2rad($angle))), 32768 + (int) round($chroma * sin(deg2rad($angle)))];
                    for ($luma = 3000; $luma < 65000; $luma += 233) {
                        $frame = new Frame($format, pack('v*', $luma, $luma, $luma, $luma, $u, $u, $u, $u, $v, $v, $v, $v));
                        $planes = $frame->window($format->rect());
                        $is = min($planes->r[0], $planes->g[0], $planes->b[0]) < 0.01 || max($planes->r[0], $planes->g[0], $planes->b[0]) > 1.01;
                        $told = Beyond::of($frame, 0.01, 1.01) !== [];
                        self::assertTrue($told || !$is, "{$luma} {$u} {$v}");
                        $beyond += $is ? 1 : 0;
                        $within += $told ? 0 : 1;
                    }
                }
            }
        }
        self::assertGreaterThan(2000, $beyond);
        self::assertSame(2 * 24 * 5 * 267 - $beyond, $within, 'no more than there are');
    }

    public function test_a_usual_frame_has_none_and_a_bright_one_is_told_as_a_whole(): void
    {
        foreach (self::formats() as [$format]) {
            $n = $format->width * $format->height;
            $neutral = $format->layout === Layout::Yuv ? 32768 : 30000;
            self::assertSame([], Beyond::of(new Frame($format, pack('v*', ...array_fill(0, $n, 30000), ...array_fill(0, 2 * $n, $neutral))), 0.01, 1.01));
            $bright = $format->layout === Layout::Yuv ? 32768 : 65000;
            self::assertSame($n, array_sum(array_map(static fn(Rect $r): int => $r->count(), Beyond::of(new Frame($format, pack('v*', ...array_fill(0, $n, 65000), ...array_fill(0, 2 * $n, $bright))), 0.01, 0.98))));
        }
    }

    public function test_one_pixel_costs_no_more_than_what_is_round_it(): void
    {
        $format = new FrameFormat(300, 40);
        $n = $format->width * $format->height;
        $luma = array_fill(0, $n, 30000);
        $luma[20 * 300 + 200] = 64000;
        $rects = Beyond::of(new Frame($format, pack('v*', ...$luma, ...array_fill(0, 2 * $n, 32768))), 0.01, 1.01);
        self::assertCount(1, $rects);
        self::assertSame([128, 16, 128, 16], [$rects[0]->x, $rects[0]->y, $rects[0]->width, $rects[0]->height]);
    }
}
