<?php

declare(strict_types=1);

namespace App\Footage;

/** Heads and ends of PNG (ISO/IEC 15948), JPEG (ITU-T T.81) and TIFF (revision 6.0) pictures: how large they are, and whether all is in the file. */
final class PlainPicture
{
    private const PNG_END = "IEND\xAE\x42\x60\x82";
    private const JPEG_END = "\xFF\xD9";
    /** Some programs write more after the end. */
    private const TAIL = 65536;
    private const TIFF_TYPES = [3 => ['v', 'n', 2], 4 => ['V', 'N', 4]];
    private const STRIPS = [[273, 279], [324, 325]];
    private const MOST_STRIPS = 100_000;

    public static function read(string $file, string $type): PictureHeader
    {
        $found = @getimagesize($file);
        $isWhole = match ($type) {
            'png' => str_contains(self::tail($file), self::PNG_END),
            'jpg', 'jpeg' => str_contains(self::tail($file), self::JPEG_END),
            default => self::isWholeTiff($file),
        };

        return new PictureHeader(size: $found === false ? null : [$found[0], $found[1]], rows: $isWhole ? null : 0);
    }

    private static function tail(string $file): string
    {
        return (string) file_get_contents($file, offset: max(0, (int) filesize($file) - self::TAIL));
    }

    /** Whether the strips or tiles of the first picture lie in the file. What is no TIFF at all is left to whoever decodes it. */
    private static function isWholeTiff(string $file): bool
    {
        $size = (int) filesize($file);
        $head = (string) file_get_contents($file, length: 8);
        $little = (int) !str_starts_with($head, 'II');
        $int = static fn(int $at): int => unpack(['V', 'N'][$little], str_pad((string) file_get_contents($file, offset: min($at, $size), length: 4), 4, "\0"))[1] ?? 0;
        $at = strlen($head) === 8 ? unpack(['V', 'N'][$little], $head, 4)[1] ?? 0 : $size;
        if ($at + 2 > $size) {
            return false;
        }
        $entries = (unpack(['v', 'n'][$little], (string) file_get_contents($file, offset: $at, length: 2)) ?: [])[1] ?? 0;
        $table = (string) file_get_contents($file, offset: $at + 2, length: 12 * $entries);
        $values = [];
        foreach (str_split($table, 12) as $i => $entry) {
            $told = strlen($entry) < 12 ? null : unpack(['vtag/vtype/Vmany', 'ntag/ntype/Nmany'][$little], $entry);
            $type = self::TIFF_TYPES[$told['type'] ?? 0] ?? null;
            if ($told === null || $told === false || $type === null || $told['many'] > self::MOST_STRIPS) {
                continue;
            }
            $bytes = $told['many'] * $type[2];
            $place = $bytes <= 4 ? $at + 2 + 12 * $i + 8 : $int($at + 2 + 12 * $i + 8);
            $read = $place + $bytes <= $size ? (string) file_get_contents($file, offset: $place, length: $bytes) : '';
            $values[$told['tag']] = $read === '' ? null : array_values(unpack("{$type[$little]}*", $read) ?: []);
        }
        foreach (self::STRIPS as [$offsets, $counts]) {
            if (array_key_exists($offsets, $values) && array_key_exists($counts, $values)) {
                $ends = array_map(static fn(int $from, int $bytes): int => $from + $bytes, $values[$offsets] ?? [$size], $values[$counts] ?? [1]);

                return max($ends) <= $size;
            }
        }

        return true;
    }
}
