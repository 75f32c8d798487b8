<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Colour;

use Cossel\Core\Colour\WhitePoint;
use PHPUnit\Framework\TestCase;

final class WhitePointTest extends TestCase
{
    public function test_no_shift_is_no_change(): void
    {
        foreach (WhitePoint::change(0, 0) as $i => $value) {
            self::assertEqualsWithDelta($i % 4 === 0 ? 1.0 : 0.0, $value, 1e-12);
        }
    }

    public function test_white_keeps_its_luminance_and_goes_to_the_published_white(): void
    {
        // D50 is at 5003 K (199.9 mired), 46.1 warmer than D65; CIE 015: x 0.3457, y 0.3585.
        $m = WhitePoint::change(1e6 / 5003 - 1e6 / 6504, 0);
        $rgb = [$m[0] + $m[1] + $m[2], $m[3] + $m[4] + $m[5], $m[6] + $m[7] + $m[8]];
        $x = 0.4123908 * $rgb[0] + 0.3575843 * $rgb[1] + 0.1804808 * $rgb[2];
        $y = 0.2126390 * $rgb[0] + 0.7151687 * $rgb[1] + 0.0721923 * $rgb[2];
        $z = 0.0193308 * $rgb[0] + 0.1191948 * $rgb[1] + 0.9505322 * $rgb[2];
        self::assertEqualsWithDelta(1.0, $y, 2e-3);
        self::assertEqualsWithDelta(0.3457, $x / ($x + $y + $z), 1.5e-3);
        self::assertEqualsWithDelta(0.3585, $y / ($x + $y + $z), 1.5e-3);
    }

    public function test_directions(): void
    {
        $warm = WhitePoint::change(40, 0);
        self::assertGreaterThan($warm[6] + $warm[7] + $warm[8], $warm[0] + $warm[1] + $warm[2]);
        $magenta = WhitePoint::change(0, 15);
        self::assertLessThan(1.0, $magenta[3] + $magenta[4] + $magenta[5]);
        self::assertGreaterThan(1.0, $magenta[0] + $magenta[1] + $magenta[2]);
    }
}
