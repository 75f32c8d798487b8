<?php

declare(strict_types=1);

namespace App\Footage;

/** The pages of an Ogg file (RFC 3533). */
final class OggPages
{
    private const HEAD = 27;
    private const LAST = 4;

    /** Whether every stream in it has the page that is marked as its last; a file that was cut short has not. */
    public static function haveEnds(string $file): bool
    {
        $from = fopen($file, 'rb');
        if ($from === false) {
            throw UnreadableFootage::gone(basename($file));
        }
        $ended = [];
        $size = (int) (fstat($from)['size'] ?? 0);
        for ($at = 0; $at < $size;) {
            fseek($from, $at);
            $head = (string) fread($from, self::HEAD + 255);
            if (strlen($head) < self::HEAD || !str_starts_with($head, 'OggS')) {
                break;
            }
            $segments = ord($head[26]);
            $end = $at + self::HEAD + $segments + array_sum(unpack('C*', substr($head, self::HEAD, $segments)) ?: []);
            if ($end > $size) {
                break;
            }
            $stream = bin2hex(substr($head, 14, 4));
            $ended[$stream] = ($ended[$stream] ?? false) || (ord($head[5]) & self::LAST) !== 0;
            $at = $end;
        }
        fclose($from);

        return $ended !== [] && !in_array(false, $ended, true);
    }
}
