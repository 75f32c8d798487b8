<?php

declare(strict_types=1);

namespace App\Treatment;

/** Ids that a recipe does not use yet. */
final class FreshIds
{
    /** @var array<string, int> */
    private array $last = [];

    /** @param string $json the recipe as it is written */
    public function __construct(private readonly string $json) {}

    /** One that begins with these letters. */
    public function of(string $letters): string
    {
        do {
            $this->last[$letters] = ($this->last[$letters] ?? 0) + 1;
        } while (str_contains($this->json, "\"id\":\"{$letters}{$this->last[$letters]}\""));

        return $letters . $this->last[$letters];
    }
}
