<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Recipe\Part;

/** Parts of a face's skin that have a name, as rings of points of a {@see \Cossel\Core\Face\Mesh}. Left and right are the person's own. */
enum Region
{
    case UnderLeftEye;
    case UnderRightEye;
    case Forehead;
    case LeftCheek;
    case RightCheek;
    case Nose;
    case Chin;
    case LeftBrow;
    case RightBrow;

    public function title(): string
    {
        return match ($this) {
            self::UnderLeftEye => 'Under the left eye',
            self::UnderRightEye => 'Under the right eye',
            self::Forehead => 'Forehead',
            self::LeftCheek => 'Left cheek',
            self::RightCheek => 'Right cheek',
            self::Nose => 'Nose',
            self::Chin => 'Chin and jaw',
            self::LeftBrow => 'Left brow',
            self::RightBrow => 'Right brow',
        };
    }

    public function part(): Part
    {
        return match ($this) {
            self::UnderLeftEye, self::UnderRightEye => Part::UnderEye,
            self::Forehead => Part::Forehead,
            self::LeftCheek, self::RightCheek => Part::Cheek,
            self::Nose => Part::Nose,
            self::Chin => Part::Chin,
            self::LeftBrow, self::RightBrow => Part::Brow,
        };
    }

    /** The same on the other side of the face, if there is one. */
    public function other(): ?self
    {
        return match ($this) {
            self::UnderLeftEye => self::UnderRightEye,
            self::UnderRightEye => self::UnderLeftEye,
            self::LeftCheek => self::RightCheek,
            self::RightCheek => self::LeftCheek,
            self::LeftBrow => self::RightBrow,
            self::RightBrow => self::LeftBrow,
            default => null,
        };
    }

    /** @return non-empty-list<int> */
    public function points(): array
    {
        return match ($this) {
            self::UnderLeftEye => [255, 339, 254, 253, 252, 256, 341, 464, 357, 350, 349, 348, 347, 346],
            self::UnderRightEye => [25, 110, 24, 23, 22, 26, 112, 244, 128, 121, 120, 119, 118, 117],
            self::Forehead => [68, 104, 69, 108, 151, 337, 299, 333, 298, 284, 332, 297, 338, 10, 109, 67, 103, 54],
            self::LeftCheek => [345, 346, 347, 348, 329, 371, 423, 426, 436, 416, 433, 376, 352],
            self::RightCheek => [116, 117, 118, 119, 100, 142, 203, 206, 216, 192, 213, 147, 123],
            self::Nose => [168, 351, 399, 437, 420, 279, 331, 294, 327, 2, 98, 64, 102, 49, 198, 217, 174, 122],
            self::Chin => [
                136, 150, 149, 176, 148, 152, 377, 400, 378, 379, 365,
                434, 430, 424, 418, 421, 200, 201, 194, 204, 210, 214,
            ],
            self::LeftBrow => [336, 296, 334, 293, 300, 276, 283, 282, 295, 285],
            self::RightBrow => [107, 66, 105, 63, 70, 46, 53, 52, 65, 55],
        };
    }
}
