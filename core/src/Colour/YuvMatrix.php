<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/** Luma weights of the Y'CbCr systems that footage comes in. */
enum YuvMatrix: string
{
    case Bt601 = 'bt601';
    case Bt709 = 'bt709';

    /** @return array{float, float} Kr and Kb (ITU-R BT.601-7, BT.709-6) */
    public function weights(): array
    {
        return match ($this) {
            self::Bt601 => [0.299, 0.114],
            self::Bt709 => [0.2126, 0.0722],
        };
    }
}
