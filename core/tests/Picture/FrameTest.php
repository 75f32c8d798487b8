<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Colour\YuvMatrix;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
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
}
