<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/**
 * Rings of points of a {@see Mesh}. All but the oval begin at the end that is on the left of the picture when the head is upright and
 * seen from in front, and go over the upper side first. Left and right are the person's own.
 */
enum Ring
{
    case OuterLips;
    case InnerLips;
    case LeftLids;
    case RightLids;
    case Oval;

    public static function lids(bool $left): self
    {
        return $left ? self::LeftLids : self::RightLids;
    }

    /** @return non-empty-list<int> */
    public function points(): array
    {
        return match ($this) {
            self::OuterLips => [61, 185, 40, 39, 37, 0, 267, 269, 270, 409, 291, 375, 321, 405, 314, 17, 84, 181, 91, 146],
            self::InnerLips => [78, 191, 80, 81, 82, 13, 312, 311, 310, 415, 308, 324, 318, 402, 317, 14, 87, 178, 88, 95],
            self::LeftLids => [362, 398, 384, 385, 386, 387, 388, 466, 263, 249, 390, 373, 374, 380, 381, 382],
            self::RightLids => [33, 246, 161, 160, 159, 158, 157, 173, 133, 155, 154, 153, 145, 144, 163, 7],
            // From the middle of the forehead by the person's left temple and the chin.
            self::Oval => [
                10, 338, 297, 332, 284, 251, 389, 356, 454, 323, 361, 288, 397, 365, 379, 378, 400, 377,
                152, 148, 176, 149, 150, 136, 172, 58, 132, 93, 234, 127, 162, 21, 54, 103, 67, 109,
            ],
        };
    }
}
