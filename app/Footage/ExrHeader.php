<?php

declare(strict_types=1);

namespace App\Footage;

/**
 * Heads of OpenEXR files ("OpenEXR File Layout", 2.x): whether they are of the sort that is handled, one part of red, green and blue in half
 * or float with the primaries of Rec.709, which also hold where none are told.
 */
final class ExrHeader
{
    private const MAGIC = 20000630;
    private const MOST_BYTES = 1_000_000;
    /** Bits of the version. */
    private const TILED = 0x200;
    private const DEEP_OR_PARTS = 0x1800;
    /** Rows of a block by the number of the compression; those not named have one each. */
    private const ROWS = [3 => 16, 4 => 32, 5 => 16, 6 => 32, 7 => 32, 8 => 32, 9 => 256];
    /** More rows or columns than this and its head is damaged. */
    private const SIDE = 1 << 20;
    /** Red, green, blue, white: x and y of each. */
    private const PRIMARIES = [
        'Rec.709' => [0.64, 0.33, 0.30, 0.60, 0.15, 0.06, 0.3127, 0.3290],
        'Rec.2020' => [0.708, 0.292, 0.170, 0.797, 0.131, 0.046, 0.3127, 0.3290],
        'P3 D65' => [0.680, 0.320, 0.265, 0.690, 0.150, 0.060, 0.3127, 0.3290],
        'P3 DCI' => [0.680, 0.320, 0.265, 0.690, 0.150, 0.060, 0.314, 0.351],
        'ACES AP0' => [0.7347, 0.2653, 0.0, 1.0, 0.0001, -0.077, 0.32168, 0.33767],
        'ACES AP1' => [0.713, 0.293, 0.165, 0.830, 0.128, 0.044, 0.32168, 0.33767],
    ];

    /** @throws UnreadableFootage|RefusedFootage */
    public static function read(string $file, string $name): PictureHeader
    {
        $bytes = (string) file_get_contents($file, length: self::MOST_BYTES);
        $head = unpack('Vmagic/Vversion', str_pad($bytes, 8, "\0")) ?: [];
        if ($head['magic'] !== self::MAGIC) {
            throw UnreadableFootage::archive("{$name} is no OpenEXR picture");
        }
        if (($head['version'] & self::DEEP_OR_PARTS) !== 0) {
            throw RefusedFootage::picture($name, 'has several parts or deep pixels');
        }
        [$attributes, $end] = self::attributes($bytes) ?? throw UnreadableFootage::archive("the head of {$name} is damaged");
        $data = self::window($attributes['dataWindow'] ?? '');
        $shown = self::window($attributes['displayWindow'] ?? '');
        if ($data === null || $shown === null) {
            throw UnreadableFootage::archive("the head of {$name} is damaged");
        }
        self::checkChannels($attributes['channels'] ?? '', $name);
        self::checkPrimaries($attributes['chromaticities'] ?? null, $name);
        $rate = unpack('Vover/Vunder', str_pad($attributes['framesPerSecond'] ?? '', 8, "\0")) ?: [];
        $code = unpack('V', str_pad($attributes['timeCode'] ?? '', 4, "\0"))[1] ?? 0;

        return new PictureHeader(
            $rate['under'] > 0 ? PictureHeader::rate($rate['over'] / $rate['under']) : null,
            // Flags sit between the digits.
            isset($attributes['timeCode']) ? PictureHeader::timecode($code & 0x3F7F7F3F, ($code & 0x40) !== 0) : null,
            null,
            size: $shown,
            rows: self::wholeRows($file, $end, $data, ($head['version'] & self::TILED) !== 0 ? self::tiles($attributes['tiles'] ?? '', $data) : null, ord($attributes['compression'] ?? "\0")),
        );
    }

    /**
     * Rows whose blocks end within the file, by the table of where each begins; blocks lie one after the other.
     *
     * @param int             $table where it is
     * @param array{int, int} $size  of the data
     * @param int|null        $tiles how many there are; null where blocks are rows
     *
     * @return int|null null where all are
     */
    private static function wholeRows(string $file, int $table, array $size, ?int $tiles, int $compression): ?int
    {
        $rows = self::ROWS[$compression] ?? 1;
        $blocks = $tiles ?? (int) ceil($size[1] / $rows);
        $bytes = (int) filesize($file);
        if ($table + 8 * $blocks > $bytes) {
            return 0;
        }
        $begins = array_values(unpack('P*', (string) file_get_contents($file, offset: $table, length: 8 * $blocks)) ?: []);
        sort($begins);
        $whole = 0;
        foreach ($begins as $i => $begin) {
            // A place beyond the file, or none: it was not written.
            if ($begin < $table || $begin >= $bytes) {
                continue;
            }
            $whole += (int) (($begins[$i + 1] ?? self::end($file, $begin, $tiles !== null)) <= $bytes);
        }

        return $whole === $blocks ? null : (int) min($size[1], $tiles === null ? $whole * $rows : floor($size[1] * $whole / $blocks));
    }

    /** Where a block ends: its place, its size, its bytes. */
    private static function end(string $file, int $begin, bool $isTile): int
    {
        $head = $isTile ? 16 : 4;
        $size = unpack('V', str_pad((string) file_get_contents($file, offset: $begin + $head, length: 4), 4, "\xFF"))[1] ?? 0;

        return $begin + $head + 4 + $size;
    }

    /** @return array{int, int}|null width and height */
    private static function window(string $box): ?array
    {
        $sides = strlen($box) === 16 ? array_map(static fn(int $v): int => $v >= 1 << 31 ? $v - (1 << 32) : $v, array_values(unpack('V4', $box) ?: [])) : [0, 0, -1, -1];
        [$width, $height] = [$sides[2] - $sides[0] + 1, $sides[3] - $sides[1] + 1];

        return $width < 1 || $height < 1 || $width > self::SIDE || $height > self::SIDE ? null : [$width, $height];
    }

    /**
     * Of the picture in full size, which comes before smaller ones.
     *
     * @param array{int, int} $size
     */
    private static function tiles(string $told, array $size): int
    {
        [$across, $down] = strlen($told) >= 8 ? array_values(unpack('V2', $told) ?: []) : [1, 1];

        return (int) (ceil($size[0] / max(1, $across)) * ceil($size[1] / max(1, $down)));
    }

    /** @return array{array<string, string>, int}|null values by name, and where they end */
    private static function attributes(string $bytes): ?array
    {
        $found = [];
        for ($at = 8, $end = strlen($bytes); $at < $end && $bytes[$at] !== "\0";) {
            $words = explode("\0", substr($bytes, $at, 600), 3);
            $at += strlen($words[0]) + strlen($words[1] ?? '') + 2;
            $size = unpack('V', str_pad(substr($bytes, $at, 4), 4, "\0"))[1] ?? 0;
            if (count($words) < 3 || $at + 4 + $size > $end) {
                return null;
            }
            $found[$words[0]] = substr($bytes, $at + 4, $size);
            $at += 4 + $size;
        }

        return [$found, $at + 1];
    }

    private static function checkChannels(string $list, string $name): void
    {
        $types = [];
        for ($at = 0; $at < strlen($list) && $list[$at] !== "\0"; $at += 16) {
            $channel = explode("\0", substr($list, $at, 300), 2)[0];
            $at += strlen($channel) + 1;
            $types[$channel] = unpack('V', str_pad(substr($list, $at, 4), 4, "\0"))[1] ?? 0;
        }
        foreach (['R', 'G', 'B'] as $channel) {
            if (!isset($types[$channel])) {
                throw RefusedFootage::picture($name, "has no channel {$channel}");
            }
            if ($types[$channel] === 0) {
                throw RefusedFootage::picture($name, 'counts in whole numbers instead of half or float');
            }
        }
    }

    private static function checkPrimaries(?string $told, string $name): void
    {
        if ($told === null || strlen($told) !== 32) {
            return;
        }
        $values = array_values(unpack('g8', $told) ?: []);
        foreach (self::PRIMARIES as $known => $wanted) {
            if (max(array_map(static fn(float $a, float $b): float => abs($a - $b), $values, $wanted)) < 0.002) {
                $known === 'Rec.709' || throw RefusedFootage::primaries($known);

                return;
            }
        }

        throw RefusedFootage::primaries(implode(' ', array_map(static fn(float $v): string => rtrim(rtrim(sprintf('%.4F', $v), '0'), '.'), $values)));
    }
}
