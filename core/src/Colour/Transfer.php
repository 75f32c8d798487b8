<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/**
 * From R'G'B' code values to linear light and back; both odd, so that values under black keep their sign.
 */
enum Transfer: string
{
    /** ITU-R BT.1886 with black at 0: V^2.4. */
    case Bt1886 = 'bt1886';
    /** IEC 61966-2-1. */
    case Srgb = 'srgb';

    public const GAMMA = 2.4;

    /** Linear light (1 = reference white) of a code value. */
    public function linear(float $v): float
    {
        $m = abs($v);
        $l = match ($this) {
            self::Bt1886 => $m ** self::GAMMA,
            self::Srgb => $m <= 0.04045 ? $m / 12.92 : (($m + 0.055) / 1.055) ** 2.4,
        };

        return $v < 0 ? -$l : $l;
    }

    /** The code value of linear light. */
    public function code(float $l): float
    {
        $m = abs($l);
        $v = match ($this) {
            self::Bt1886 => $m ** (1 / self::GAMMA),
            self::Srgb => $m <= 0.0031308 ? 12.92 * $m : 1.055 * $m ** (1 / 2.4) - 0.055,
        };

        return $l < 0 ? -$v : $v;
    }

    /**
     * The curve for kernels: L = V / slope up to the cut, ((V + shift) / gain)^gamma beyond it.
     *
     * @return array{float, float, float, float, float} gamma, gain, shift, slope, cut in code values
     */
    public function constants(): array
    {
        return match ($this) {
            self::Bt1886 => [self::GAMMA, 1.0, 0.0, 1.0, 0.0],
            self::Srgb => [2.4, 1.055, 0.055, 12.92, 0.04045],
        };
    }
}
