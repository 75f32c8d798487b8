<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Colour\YuvMatrix;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FrameTest extends TestCase
{
    /** @return iterable<string, array{FrameFormat}> */
    public static function formats(): iterable
    {
        yield 'BT.709 video range' => [new FrameFormat(16, 12)];
        yield 'BT.601 full range' => [new FrameFormat(16, 12, matrix: YuvMatrix::Bt601, fullRange: true)];
        yield 'RGB' => [new FrameFormat(16, 12, Layout::Rgb, fullRange: true)];
    }

    #[DataProvider('formats')]
    public function test_untouched_pixels_get_back_their_very_code_values(FrameFormat $format): void
    {
        $bytes = (new \Random\Randomizer(new \Random\Engine\Mt19937(5)))->getBytes($format->bytes());
        $frame = new Frame($format, $bytes);
        self::assertSame($bytes, $frame->patched([$frame->window($format->rect())]));
        self::assertSame($bytes, $frame->patched([$frame->window(Rect::of(2, 3, 7, 5)), $frame->window(Rect::of(9, 0, 7, 12))]));
        self::assertSame($bytes, $frame->patched([]));
    }

    #[DataProvider('formats')]
    public function test_codes_become_light_by_one_matrix_as_pixel_by_pixel(FrameFormat $format): void
    {
        $codes = array_map(static fn(int $k): int => 9000 + 4111 * $k % 48000, range(1, 3 * 16 * 12));
        $window = (new Frame($format, pack('v*', ...$codes)))->window($format->rect());
        foreach ([0, 37, 191] as $k) {
            [$first, $second, $third] = [$codes[$k], $codes[$k + 192], $codes[$k + 384]];
            $rgb = array_map(static fn(array $row): float => $row[0] * $first + $row[1] * $second + $row[2] * $third + $row[3], $format->toRgb8());
            self::assertEqualsWithDelta([255 * $window->r[$k], 255 * $window->g[$k], 255 * $window->b[$k]], $rgb, 1e-9);
        }
    }

    public function test_reference_colours_come_out_as_the_standard_says(): void
    {
        // ITU-R BT.709-6 item 3.4/3.5: 8-bit codes of white, black, red and blue at 75 % and a value over white.
        $codes = [[235, 128, 128], [16, 128, 128], [51, 109, 212], [28, 212, 120], [254, 128, 128], [1, 128, 128]];
        $wanted = [[1, 1, 1], [0, 0, 0], [0.75, 0, 0], [0, 0, 0.75], [238 / 219, 238 / 219, 238 / 219], [-15 / 219, -15 / 219, -15 / 219]];
        $planes = '';
        foreach ([0, 1, 2] as $plane) {
            $planes .= pack('v*', ...array_map(static fn(array $code): int => $code[$plane] << 8, $codes));
        }
        $window = (new Frame(new FrameFormat(6, 1), $planes))->window(Rect::of(0, 0, 6, 1));
        foreach ($wanted as $x => $rgb) {
            foreach ($window->at($x, 0) as $i => $value) {
                self::assertEqualsWithDelta($rgb[$i], $value, $x === 2 || $x === 3 ? 0.008 : 1e-9, "colour {$x}, channel {$i}");
            }
        }
    }

    public function test_luma_of_a_window_goes_on_beyond_the_edge(): void
    {
        $format = new FrameFormat(4, 2);
        $luma = pack('v*', 4096, 8192, 12288, 60160, 4096, 4096, 4096, 32128);
        $frame = new Frame($format, $luma . str_repeat(pack('v', 32768), 16));
        $grey = $frame->luma(Rect::of(-1, -1, 6, 4));
        self::assertSame(0.0, $grey->at(-1, -1));
        self::assertSame(1.0, $grey->at(4, 0));
        self::assertSame(1.0, $grey->at(3, -1));
        self::assertSame(0.5, $grey->at(4, 2));
    }

    public function test_luma_wholly_beside_the_frame_is_that_of_the_nearest_edge(): void
    {
        $frame = new Frame(new FrameFormat(4, 2), pack('v*', 4096, 8192, 12288, 60160, 4096, 4096, 4096, 32128) . str_repeat(pack('v', 32768), 16));
        self::assertSame([1.0, 1.0, 0.5, 0.5], $frame->luma(Rect::of(9, 0, 2, 2))->v);
        self::assertSame([0.0, 0.0], $frame->luma(Rect::of(-9, 0, 2, 1))->v);
        self::assertSame([0.0, 0.5], $frame->luma(Rect::of(2, 7, 2, 1))->v);
    }

    #[DataProvider('formats')]
    public function test_boundless_light_is_as_bright_as_there_is_and_boundless_dark_as_dark(FrameFormat $format): void
    {
        $frame = new Frame($format, str_repeat("\x00\x40", 3 * 16 * 12));
        $rect = Rect::of(0, 0, 1, 1);
        $written = static function (float $r, float $g, float $b) use ($frame, $rect, $format): array {
            $samples = array_values((array) unpack('v*', $frame->patched([new Planes($rect, [$r], [$g], [$b])])));

            return [$samples[0], $samples[192], $samples[384]];
        };
        $bounded = $written(9e9, 9e9, 9e9);
        self::assertSame($bounded[0], $written(INF, INF, INF)[0]);
        self::assertSame(65535, $bounded[0]);
        self::assertSame(0, $written(-INF, -INF, -INF)[0]);
        // Grey stays grey.
        self::assertSame($format->layout === Layout::Yuv ? 32768 : 65535, $written(INF, INF, INF)[1]);
    }

    public function test_luma_of_rgb_footage_is_weighed(): void
    {
        $format = new FrameFormat(1, 1, Layout::Rgb, fullRange: true);
        $frame = new Frame($format, pack('v*', 65535, 0, 0));
        self::assertEqualsWithDelta(0.7152, $frame->luma(Rect::of(0, 0, 1, 1))->at(0, 0), 1e-9);
    }

    public function test_bytes_of_another_length_are_refused(): void
    {
        $this->expectException(\LengthException::class);
        new Frame(new FrameFormat(4, 4), 'short');
    }

    public function test_older_footage_has_its_own_weights(): void
    {
        // ITU-R BT.601-7: Y' = 0.299 R' + 0.587 G' + 0.114 B', colour differences over 1.772 and 1.402; full range of 16 bits.
        foreach ([[[1.0, 0.0, 0.0], 0.299], [[0.0, 1.0, 0.0], 0.587], [[0.0, 0.0, 1.0], 0.114]] as [$rgb, $luma]) {
            $codes = [65535 * $luma, 32768 + 65535 * ($rgb[2] - $luma) / 1.772, 32768 + 65535 * ($rgb[0] - $luma) / 1.402];
            $bytes = pack('v*', ...array_map(static fn(float $v): int => max(0, min(65535, (int) round($v))), $codes));
            $window = (new Frame(new FrameFormat(1, 1, matrix: YuvMatrix::Bt601, fullRange: true), $bytes))->window(Rect::of(0, 0, 1, 1));
            self::assertEqualsWithDelta($rgb, $window->at(0, 0), 1e-4);
        }
    }
}
