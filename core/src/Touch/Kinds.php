<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** The kinds of touch there are. A new kind is one class and one line here. */
final readonly class Kinds
{
    /** @var array<string, Kind> */
    private array $kinds;

    public function __construct(Kind ...$kinds)
    {
        $byName = [];
        foreach ($kinds as $kind) {
            $byName[$kind->name()] = $kind;
        }
        $this->kinds = $byName;
    }

    public static function all(): self
    {
        return new self(
            new Exposure(),
            new Tone(),
            new Cdl(),
            new Colour(),
            new Trim(),
            new Balance(),
            new Curves(),
            new Hues(),
            new Sidelight(),
            new Even(),
            new Whiten(),
            new Iris(),
            new Conceal(),
            new MatchColour(),
            new Grain(),
            new Blur(),
            new Sharpen(),
            new Glow(),
            new Lut(),
            new Insert(),
            new Legal(),
        );
    }

    public function find(string $name): ?Kind
    {
        return $this->kinds[$name] ?? null;
    }

    /** @return list<string> */
    public function names(): array
    {
        return array_keys($this->kinds);
    }

    /** @return list<Kind> */
    public function list(): array
    {
        return array_values($this->kinds);
    }
}
