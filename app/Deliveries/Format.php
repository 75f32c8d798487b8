<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\FootageInfo;

/** What a shot can be delivered as. */
enum Format: string
{
    case Ffv1 = 'ffv1';
    case Ffv1TenBit = 'ffv1-10';
    case Vp9 = 'vp9';
    case Png = 'png';

    public function label(): string
    {
        return match ($this) {
            self::Ffv1 => 'FFV1 16 bit, Matroska',
            self::Ffv1TenBit => 'FFV1 10 bit, Matroska',
            self::Vp9 => 'VP9, WebM',
            self::Png => 'PNG 16 bit, numbered, zipped',
        };
    }

    public function purpose(): string
    {
        return match ($this) {
            self::Ffv1 => 'Lossless master. Untouched pixels are those of the source.',
            self::Ffv1TenBit => 'Lossless in 10 bit, smaller.',
            self::Vp9 => 'To look at and send round.',
            self::Png => 'Single frames for other programs, sound as WAV beside them.',
        };
    }

    public function extension(): string
    {
        return match ($this) {
            self::Ffv1, self::Ffv1TenBit => 'mkv',
            self::Vp9 => 'webm',
            self::Png => 'zip',
        };
    }

    /** Whether what is rendered goes into the file as it is, not encoded once more. */
    public function copies(FootageInfo $footage): bool
    {
        return $this === self::Ffv1 && !$footage->variable;
    }

    public static function ofFile(string $file): ?self
    {
        return match (strtolower(pathinfo($file, PATHINFO_EXTENSION))) {
            'mkv' => self::Ffv1,
            'webm' => self::Vp9,
            'zip' => self::Png,
            default => null,
        };
    }
}
