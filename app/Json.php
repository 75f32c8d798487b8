<?php

declare(strict_types=1);

namespace App;

/**
 * JSON from outside, bounded before it is built: a few kilobytes of an archive may unpack to brackets that take a gigabyte of memory as
 * arrays.
 */
final class Json
{
    private const DEPTH = 128;
    /** Levels down that each sign leads. */
    private const STEPS = ['{' => 1, '[' => 1, '}' => -1, ']' => -1, ',' => 0];

    /**
     * @return mixed arrays by name, numbers, texts
     *
     * @throws \JsonException with a reason in words
     */
    public static function read(string $text): mixed
    {
        self::check($text);
        try {
            return json_decode($text, true, self::DEPTH, JSON_THROW_ON_ERROR);
        } catch (\JsonException $reason) {
            throw new \JsonException('this is no JSON (' . lcfirst($reason->getMessage()) . ')');
        }
    }

    private static function check(string $text): void
    {
        ['values' => $mostValues, 'arrays' => $mostArrays] = config('limits.json');
        [$values, $arrays, $depth] = [0, 0, 0];
        for ($at = 0, $end = strlen($text); ($at += strcspn($text, '"{}[],', $at)) < $end; ++$at) {
            if ($text[$at] === '"') {
                // To its other end, past what a backslash makes part of it.
                for (++$at; ($at += strcspn($text, '"\\', $at)) < $end && $text[$at] === '\\'; $at += 2);
                continue;
            }
            /** @var int $step */
            $step = self::STEPS[$text[$at]];
            $depth += $step;
            $arrays += (int) ($step > 0);
            $values += (int) ($step === 0);
            if ($depth > self::DEPTH) {
                throw new \JsonException(sprintf('it is nested deeper than %d', self::DEPTH));
            }
            if ($arrays > $mostArrays || $values > $mostValues) {
                throw new \JsonException(sprintf('it holds more than %d lists or %d values', $mostArrays, $mostValues));
            }
        }
    }
}
