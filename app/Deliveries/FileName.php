<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Models\Shot;
use Illuminate\Support\Str;

/** Names of delivered files by a pattern: {job}, {shot}, {version}, {event}, {first} and {last} stand for what they say. */
final class FileName
{
    public const USUAL = '{shot}_r{version}';
    public const FIELDS = ['job', 'shot', 'version', 'event', 'first', 'last'];

    /** @return string|null what is wrong with a pattern; null where nothing is */
    public static function problem(string $pattern): ?string
    {
        if (preg_match_all('/\{([^}]*)\}/', $pattern, $m) > 0) {
            foreach (array_diff($m[1], self::FIELDS) as $unknown) {
                return "There is no {{$unknown}} for a name; there are {" . implode('}, {', self::FIELDS) . '}.';
            }
        }

        return preg_match('/^[\p{L}\p{N} ._{}-]+$/u', $pattern) === 1 && preg_match('/[\p{L}\p{N}{]/u', $pattern) === 1
            ? null
            : 'A name is made of letters, digits, spaces, dots, dashes and underscores.';
    }

    /** Without an extension, fit for any disk. */
    public static function of(string $pattern, Shot $shot, int $revision, int $from, int $to): string
    {
        $event = $shot->cut['number'] ?? 0;
        $values = ['job' => $shot->job->name, 'shot' => $shot->name, 'version' => (string) $revision, 'event' => sprintf('%03d', $event), 'first' => sprintf('%06d', $from), 'last' => sprintf('%06d', $to)];
        $name = strtr($pattern, array_combine(array_map(static fn(string $field): string => "{{$field}}", array_keys($values)), $values));

        return Str::limit(Str::slug($name, '_'), 150, '') ?: 'delivery';
    }
}
