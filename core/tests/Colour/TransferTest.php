<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Colour;

use Cossel\Core\Colour\Transfer;
use PHPUnit\Framework\TestCase;

final class TransferTest extends TestCase
{
    public function test_both_ways_lead_back_also_under_black_and_over_white(): void
    {
        foreach (Transfer::cases() as $transfer) {
            for ($v = -0.3; $v <= 1.6; $v += 0.037) {
                self::assertEqualsWithDelta($v, $transfer->code($transfer->linear($v)), 1e-12);
            }
        }
    }

    public function test_published_values(): void
    {
        // IEC 61966-2-1: 8-bit 128 is 21.586 % of white; BT.1886: half the signal is 2^-2.4 of white.
        self::assertEqualsWithDelta(0.21586, Transfer::Srgb->linear(128 / 255), 1e-5);
        self::assertEqualsWithDelta(0.0031308, Transfer::Srgb->linear(0.04045), 1e-7);
        self::assertEqualsWithDelta(0.189465, Transfer::Bt1886->linear(0.5), 1e-6);
        self::assertEqualsWithDelta(-0.189465, Transfer::Bt1886->linear(-0.5), 1e-6);
    }
}
