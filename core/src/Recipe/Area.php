<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** One thing treated in a shot: outline, motion and touches. */
final readonly class Area
{
    /** @param list<Touch> $touches in order */
    public function __construct(
        public string $id,
        public string $name,
        public string $part,
        public ?string $person,
        public bool $on,
        public Outline $outline,
        public Motion $motion,
        public Live $live,
        public Keyed $strength,
        public array $touches,
    ) {}
}
