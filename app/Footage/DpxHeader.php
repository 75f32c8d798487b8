<?php

declare(strict_types=1);

namespace App\Footage;

/** Heads of DPX files (SMPTE ST 268): whether their codes are video as Rec.709 has it. */
final class DpxHeader
{
    /** Numbers of transfers and of colorimetries (table 5A and 5B). */
    private const NAMES = [1 => 'printing density', 2 => 'linear', 3 => 'logarithmic', 5 => 'SMPTE 274M', 6 => 'Rec.709', 7 => 'BT.601 625', 8 => 'BT.601 525', 9 => 'NTSC composite', 10 => 'PAL composite', 11 => 'Z linear', 12 => 'Z homogeneous'];
    private const VIDEO = [0, 4, 5, 6, 255];

    /** @throws UnreadableFootage|RefusedFootage */
    public static function read(string $file, string $name): PictureHeader
    {
        $bytes = str_pad((string) file_get_contents($file, length: 2048), 2048, "\xFF");
        $order = match (substr($bytes, 0, 4)) {
            'SDPX' => ['N', 'G'],
            'XPDS' => ['V', 'g'],
            default => throw UnreadableFootage::archive("{$name} is no DPX picture"),
        };
        if (!in_array(ord($bytes[800]), [50, 51, 52], true)) {
            throw RefusedFootage::picture($name, 'holds no red, green and blue');
        }
        $transfer = ord($bytes[801]);
        // Linear is what some programs write whatever is in the file.
        if ($transfer !== 2 && !in_array($transfer, self::VIDEO, true)) {
            throw RefusedFootage::transfer(self::NAMES[$transfer] ?? "DPX {$transfer}");
        }
        $code = unpack($order[0], substr($bytes, 1920, 4))[1] ?? 0;
        $fps = (float) (unpack($order[1], substr($bytes, 1940, 4))[1] ?? 0);

        return new PictureHeader(
            is_nan($fps) ? null : PictureHeader::rate($fps),
            $code === 0xFFFFFFFF ? null : PictureHeader::timecode($code, false),
            'bt709',
            $transfer === 2 ? 'The DPX files call their codes linear; they are taken as Rec.709 video.' : null,
            size: [unpack($order[0], $bytes, 772)[1] ?? 0, unpack($order[0], $bytes, 776)[1] ?? 0],
        );
    }
}
