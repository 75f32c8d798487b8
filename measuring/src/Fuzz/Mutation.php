<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

/** Changes to documents and texts that keep most of their structure, so that what is behind the first check is reached, too. */
final class Mutation
{
    /** A document with some of its places changed. */
    public static function ofDocument(mixed $document, Dice $dice): mixed
    {
        for ($n = $dice->whole(1, 5); $n > 0; --$n) {
            $place = &$document;
            while (is_array($place) && $place !== [] && $dice->happens(0.85)) {
                $key = $dice->one(array_keys($place));
                $place = &$place[$key];
            }
            $place = self::changed($place, $dice);
            unset($place);
        }

        return $document;
    }

    public static function ofText(string $text, Dice $dice): string
    {
        for ($n = $dice->whole(1, 6); $n > 0; --$n) {
            $length = strlen($text);
            $at = $dice->whole(0, $length);
            $run = $dice->whole(0, min(40, $length - $at));
            $text = match ($dice->whole(0, 5)) {
                0 => substr($text, 0, $at) . $dice->bytes($dice->whole(1, 8)) . substr($text, $at),
                1 => substr_replace($text, '', $at, $run),
                2 => substr($text, 0, $at) . str_repeat(substr($text, $at, $run), $dice->whole(1, 200)) . substr($text, $at),
                3 => substr($text, 0, $at),
                4 => self::number($text, $dice),
                default => substr($text, 0, $at) . $dice->one(['1e308', '-', '.', 'nan', "\0", '&#x41;', '<!ENTITY a "b">', '<![CDATA[', ']]>', "\xFF", '0 0 0', '1e-400', "\r", 'scale(1e300)']) . substr($text, $at),
            };
        }

        return $text;
    }

    /** A file with bits turned, cut off, or with a piece of it missing or twice. */
    public static function ofBytes(string $bytes, Dice $dice): string
    {
        $length = strlen($bytes);
        if ($length === 0) {
            return $bytes;
        }
        $at = $dice->whole(0, $length - 1);
        switch ($dice->whole(0, 3)) {
            case 0:
                return substr($bytes, 0, $at);
            case 1:
                return substr_replace($bytes, '', $at, $dice->whole(1, 2000));
            case 2:
                return substr_replace($bytes, substr($bytes, $dice->whole(0, $length - 1), 500), $at, 0);
            default:
                // Headers more often than the rest: there sizes and counts are.
                for ($n = $dice->whole(1, 20); $n > 0; --$n) {
                    $at = $dice->happens(0.4) ? $dice->whole(0, min(600, $length - 1)) : $dice->whole(0, $length - 1);
                    $bytes[$at] = chr(ord($bytes[$at]) ^ (1 << $dice->whole(0, 7)));
                }

                return $bytes;
        }
    }

    private static function changed(mixed $value, Dice $dice): mixed
    {
        if (is_array($value) && $value !== [] && $dice->happens(0.6)) {
            $key = $dice->one(array_keys($value));
            switch ($dice->whole(0, 4)) {
                case 0:
                    unset($value[$key]);

                    return array_is_list($value) || !is_int($key) ? $value : array_values($value);
                case 1:
                    return array_is_list($value) ? [...$value, $value[$key]] : [...$value, $dice->one(['id', 'keys', 'of', 'on', 'kind', '__proto__', '']) => $value[$key]];
                case 2:
                    return array_is_list($value) ? array_merge(...array_fill(0, $dice->whole(2, 30), $value)) : $value;
                case 3:
                    return array_is_list($value) ? array_reverse($value) : $value;
                default:
                    return [...$value, $key => $value[$dice->one(array_keys($value))]];
            }
        }
        if ((is_int($value) || is_float($value)) && $dice->happens(0.7)) {
            return match ($dice->whole(0, 5)) {
                0 => -$value,
                1 => $value * 1000,
                2 => $value + $dice->between(-2, 2),
                3 => (int) $value,
                4 => 0,
                default => $dice->between(-1, 1),
            };
        }

        return $dice->odd();
    }

    private static function number(string $text, Dice $dice): string
    {
        preg_match_all('/[\d.]+/', $text, $found, PREG_OFFSET_CAPTURE);
        if ($found[0] === []) {
            return $text;
        }
        [$digits, $at] = $dice->one($found[0]);

        return substr_replace($text, $dice->one(['0', '-1', '1e308', '99999999', '1.5', '0.0000001', 'x', '']), $at, strlen($digits));
    }
}
