<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * A place in a decoded JSON document that knows its JSON pointer, so that whatever is wrong there can say where.
 * Every reader throws {@see InvalidRecipe} with that place and what was expected.
 */
final readonly class Node
{
    private function __construct(private mixed $value, public string $pointer) {}

    public static function root(mixed $value): self
    {
        return new self($value, '');
    }

    /**
     * Checks that this is an object and has no other fields than these.
     *
     * @param list<string> $fields
     */
    public function object(array $fields): self
    {
        if (!is_array($this->value) || ($this->value !== [] && array_is_list($this->value))) {
            throw InvalidRecipe::at($this->pointer, 'an object', $this->value);
        }
        foreach (array_keys($this->value) as $field) {
            if (!in_array((string) $field, $fields, true)) {
                throw InvalidRecipe::at($this->child((string) $field), 'one of the fields ' . implode(', ', $fields), (string) $field);
            }
        }

        return $this;
    }

    public function has(string $field): bool
    {
        return is_array($this->value) && array_key_exists($field, $this->value);
    }

    public function get(string $field, string $expected = 'a value'): self
    {
        if (!$this->has($field)) {
            throw InvalidRecipe::missing($this->child($field), $expected);
        }

        return new self($this->value[$field], $this->child($field));
    }

    /**
     * What a reader makes of a field, or a default where the field is not there.
     *
     * @template T
     *
     * @param callable(self): T $read
     * @param T                 $default
     *
     * @return T
     */
    public function optional(string $field, callable $read, mixed $default): mixed
    {
        return $this->has($field) ? $read($this->get($field)) : $default;
    }

    public function isNull(): bool
    {
        return $this->value === null;
    }

    public function isObject(): bool
    {
        return is_array($this->value) && !array_is_list($this->value);
    }

    /** @return list<self> */
    public function items(int $least = 0, int $most = 10000): array
    {
        if (!is_array($this->value) || !array_is_list($this->value)) {
            throw InvalidRecipe::at($this->pointer, 'a list', $this->value);
        }
        $n = count($this->value);
        if ($n < $least || $n > $most) {
            throw InvalidRecipe::at(
                $this->pointer,
                $least === $most ? "a list of {$least}" : "a list of {$least} to {$most}",
                $this->value,
            );
        }
        $items = [];
        foreach ($this->value as $i => $value) {
            $items[] = new self($value, $this->child((string) $i));
        }

        return $items;
    }

    /** @return list<string> */
    public function fields(): array
    {
        return is_array($this->value) ? array_map(strval(...), array_keys($this->value)) : [];
    }

    public function number(float $least, float $most): float
    {
        $expected = sprintf('a number from %s to %s', self::plain($least), self::plain($most));
        if (!is_int($this->value) && !is_float($this->value)) {
            throw InvalidRecipe::at($this->pointer, $expected, $this->value);
        }
        if (!is_finite((float) $this->value) || $this->value < $least || $this->value > $most) {
            throw InvalidRecipe::at($this->pointer, $expected, $this->value);
        }

        // No minus before nothing: it would not be read as it was written.
        return $this->value + 0.0;
    }

    public function whole(int $least, int $most): int
    {
        if (!is_int($this->value) || $this->value < $least || $this->value > $most) {
            throw InvalidRecipe::at($this->pointer, "a whole number from {$least} to {$most}", $this->value);
        }

        return $this->value;
    }

    public function flag(): bool
    {
        if (!is_bool($this->value)) {
            throw InvalidRecipe::at($this->pointer, 'true or false', $this->value);
        }

        return $this->value;
    }

    public function text(int $most = 200): string
    {
        if (!is_string($this->value) || mb_strlen($this->value) > $most) {
            throw InvalidRecipe::at($this->pointer, "a text of at most {$most} characters", $this->value);
        }

        return $this->value;
    }

    public function matching(string $pattern, string $expected): string
    {
        if (!is_string($this->value) || preg_match($pattern, $this->value) !== 1) {
            throw InvalidRecipe::at($this->pointer, $expected, $this->value);
        }

        return $this->value;
    }

    public function id(): string
    {
        return $this->matching('/^[A-Za-z0-9_-]{1,64}\z/', 'an id of letters, digits, - and _');
    }

    public function sha256(): string
    {
        return $this->matching('/^[0-9a-f]{64}\z/', 'a SHA-256 in 64 hexadecimal digits');
    }

    /** @return array{float, float} */
    public function pair(float $least, float $most): array
    {
        [$a, $b] = $this->items(2, 2);

        return [$a->number($least, $most), $b->number($least, $most)];
    }

    /** @return array{float, float} a place or a shift, in picture heights */
    public function point(): array
    {
        return $this->pair(-20, 20);
    }

    /**
     * @template T of \BackedEnum
     *
     * @param class-string<T> $enum
     *
     * @return T
     */
    public function oneOf(string $enum): \BackedEnum
    {
        foreach ($enum::cases() as $case) {
            if ($case->value === $this->value) {
                return $case;
            }
        }

        throw $this->unexpected(
            'one of ' . implode(', ', array_map(static fn(\BackedEnum $case): string => (string) $case->value, $enum::cases())),
        );
    }

    /** @param list<string> $words */
    public function word(array $words): string
    {
        if (!in_array($this->value, $words, true)) {
            throw $this->unexpected((count($words) > 1 ? 'one of ' : '') . implode(', ', $words));
        }

        return (string) $this->value;
    }

    public function unexpected(string $expected): InvalidRecipe
    {
        return InvalidRecipe::at($this->pointer, $expected, $this->value);
    }

    private function child(string $field): string
    {
        return $this->pointer . '/' . strtr($field, ['~' => '~0', '/' => '~1']);
    }

    private static function plain(float $v): string
    {
        return rtrim(rtrim(sprintf('%.6F', $v), '0'), '.');
    }
}
