<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\FromLinear;
use PHPUnit\Framework\TestCase;

/** Linear light as stored frames, against the published curve of sRGB. */
final class FromLinearTest extends TestCase
{
    /** @param list<float> $green */
    private static function floats(array $green, array $blue, array $red): string
    {
        return pack('g*', ...$green, ...$blue, ...$red);
    }

    public function test_light_comes_back_as_the_codes_of_the_published_curve(): void
    {
        $green = [0.0, 0.002, 0.18, 0.5, 1.0, 1.15, -0.003, NAN];
        $blue = array_reverse($green);
        $red = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8];
        [$frame, $beyond] = FromLinear::frame(self::floats($green, $blue, $red), new FrameFormat(4, 2, transfer: Transfer::Srgb));
        self::assertSame(0, $beyond);
        $planes = $frame->window($frame->format->rect());
        $code = static function (float $l): float {
            $m = is_nan($l) ? 0.0 : abs($l);
            $v = $m <= 0.0031308 ? 12.92 * $m : 1.055 * $m ** (1 / 2.4) - 0.055;

            return $l < 0 ? -$v : $v;
        };
        foreach ($green as $i => $_) {
            self::assertEqualsWithDelta([$code($green[$i]), $code($blue[$i]), $code($red[$i])], [$planes->g[$i], $planes->b[$i], $planes->r[$i]], 1 / 20000);
        }
    }

    public function test_what_is_too_bright_is_counted_and_kept_at_the_end(): void
    {
        [$frame, $beyond] = FromLinear::frame(self::floats([8.0, 1.0, 0.5, 1.22], [8.0, 1.0, 0.5, 0.5], [8.0, 1.0, 1.4, 0.5]), new FrameFormat(2, 2, transfer: Transfer::Srgb));
        self::assertSame(2, $beyond);
        self::assertEqualsWithDelta(1.0958, $frame->window($frame->format->rect())->g[0], 1e-3);
        $this->expectException(\LengthException::class);
        FromLinear::frame('1234', new FrameFormat(2, 2));
    }
}
