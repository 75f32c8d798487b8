<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Colour;

use Cossel\Core\Colour\CieLab;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CieLabTest extends TestCase
{
    /** @return iterable<array{array{float, float, float}, array{float, float, float}, float}> test data published with Sharma, Wu and Dalal 2005 */
    public static function published(): iterable
    {
        yield [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425];
        yield [[50, 3.1571, -77.2803], [50, 0, -82.7485], 2.8615];
        yield [[50, 2.8361, -74.0200], [50, 0, -82.7485], 3.4412];
        yield [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1.0000];
        yield [[50, 0, 0], [50, -1, 2], 2.3669];
        yield [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792];
        yield [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195];
        yield [[50, 2.5, 0], [73, 25, -18], 27.1492];
        yield [[50, 2.5, 0], [61, -5, 29], 22.8977];
        yield [[50, 2.5, 0], [56, -27, -3], 31.9030];
        yield [[50, 2.5, 0], [58, 24, 15], 19.4535];
        yield [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644];
        yield [[63.0109, -31.0961, -5.8663], [62.8187, -29.7946, -4.0864], 1.2630];
        yield [[90.8027, -2.0831, 1.4410], [91.1528, -1.6435, 0.0447], 1.4441];
        yield [[2.0776, 0.0795, -1.1350], [0.9033, -0.0636, -0.5514], 0.9082];
    }

    /**
     * @param array{float, float, float} $one
     * @param array{float, float, float} $other
     */
    #[DataProvider('published')]
    public function test_ciede2000(array $one, array $other, float $difference): void
    {
        self::assertEqualsWithDelta($difference, CieLab::difference($one, $other), 5e-5);
        self::assertEqualsWithDelta($difference, CieLab::difference($other, $one), 5e-5);
    }

    public function test_white_grey_and_red(): void
    {
        self::assertEqualsWithDelta([100, 0, 0], CieLab::fromLinear(1, 1, 1), 1e-9);
        self::assertEqualsWithDelta([0, 0, 0], CieLab::fromLinear(0, 0, 0), 1e-9);
        // sRGB red, as colour charts give it for D65.
        self::assertEqualsWithDelta([53.24, 80.09, 67.20], CieLab::fromLinear(1, 0, 0), 0.02);
    }
}
