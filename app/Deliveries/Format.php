<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\FootageInfo;

/** What a shot can be delivered as. */
enum Format: string
{
    case Ffv1 = 'ffv1';
    case Ffv1TenBit = 'ffv1-10';
    case ProRes = 'prores';
    case Exr = 'exr';
    case Tiff = 'tiff';
    case Png = 'png';
    case Av1 = 'av1';
    case Vp9 = 'vp9';

    public function label(): string
    {
        return match ($this) {
            self::Ffv1 => 'FFV1 16 bit, Matroska',
            self::Ffv1TenBit => 'FFV1 10 bit, Matroska',
            self::ProRes => 'ProRes 422 HQ, QuickTime',
            self::Exr => 'OpenEXR half, numbered, zipped',
            self::Tiff => 'TIFF 16 bit, numbered, zipped',
            self::Png => 'PNG 16 bit, numbered, zipped',
            self::Av1 => 'AV1 10 bit, MP4',
            self::Vp9 => 'VP9, WebM',
        };
    }

    public function purpose(): string
    {
        return match ($this) {
            self::Ffv1 => 'Lossless master. Untouched pixels are those of the source.',
            self::Ffv1TenBit => 'Lossless in 10 bit, smaller.',
            self::ProRes => 'For cutting rooms: 10 bit, every frame for itself.',
            self::Exr => 'Linear light, Rec.709 primaries, nothing clipped above white or below black.',
            self::Tiff, self::Png => 'Single frames for other programs, sound as WAV beside them.',
            self::Av1 => 'To look at, fine gradients in few bytes.',
            self::Vp9 => 'To look at and send round.',
        };
    }

    public function extension(): string
    {
        return match ($this) {
            self::Ffv1, self::Ffv1TenBit => 'mkv',
            self::ProRes => 'mov',
            self::Exr, self::Tiff, self::Png => 'zip',
            self::Av1 => 'mp4',
            self::Vp9 => 'webm',
        };
    }

    /** What writes it, by ffmpeg's own name. */
    public function encoder(): string
    {
        return match ($this) {
            self::Ffv1, self::Ffv1TenBit => 'ffv1',
            self::ProRes => 'prores_ks',
            self::Exr => 'exr',
            self::Tiff => 'tiff',
            self::Png => 'png',
            self::Av1 => 'libsvtav1',
            self::Vp9 => 'libvpx-vp9',
        };
    }

    /** Whether it is single frames. */
    public function isPictures(): bool
    {
        return $this->extension() === 'zip';
    }

    /** Whether its frames are linear light in floating point, rendered so and never brought to whole codes. */
    public function isLinear(): bool
    {
        return $this === self::Exr;
    }

    /** Whether what is rendered goes into the file as it is, not encoded once more. */
    public function copies(FootageInfo $footage): bool
    {
        return $this === self::Ffv1 && !$footage->variable;
    }

    /** The usual format of a file by its name. */
    public static function ofFile(string $file): ?self
    {
        return match (strtolower(pathinfo($file, PATHINFO_EXTENSION))) {
            'mkv' => self::Ffv1,
            'mov' => self::ProRes,
            'mp4' => self::Av1,
            'webm' => self::Vp9,
            'zip' => self::Png,
            default => null,
        };
    }
}
