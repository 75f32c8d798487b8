<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

/** A change that would quieten a tell-tale: another recipe, or a frame to follow the area again from. */
final readonly class Cure
{
    /** @param array<string, mixed>|null $recipe the whole recipe with the change, as a document */
    private function __construct(public string $words, public ?array $recipe, public ?int $followFrom) {}

    /** @param array<string, mixed> $recipe */
    public static function byRecipe(string $words, array $recipe): self
    {
        return new self($words, $recipe, null);
    }

    public static function byFollowing(int $from): self
    {
        return new self("Follow it again from frame {$from}", null, $from);
    }
}
