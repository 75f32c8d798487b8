<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A recipe breaks the format: where (JSON pointer, RFC 6901) and what was expected. */
final class InvalidRecipe extends \DomainException
{
    private function __construct(public readonly string $pointer, public readonly string $expected, public readonly string $found)
    {
        parent::__construct(sprintf('%s: expected %s, found %s.', $pointer === '' ? 'The recipe' : $pointer, $expected, $found));
    }

    public static function at(string $pointer, string $expected, mixed $found): self
    {
        return new self($pointer, $expected, self::describe($found));
    }

    public static function missing(string $pointer, string $expected): self
    {
        return new self($pointer, $expected, 'nothing');
    }

    private static function describe(mixed $found): string
    {
        return match (true) {
            is_string($found) => '“' . mb_strimwidth($found, 0, 40, '…') . '”',
            is_array($found) => array_is_list($found) ? 'a list of ' . count($found) : 'an object',
            is_bool($found) => $found ? 'true' : 'false',
            $found === null => 'null',
            is_scalar($found) => (string) $found,
            default => get_debug_type($found),
        };
    }
}
