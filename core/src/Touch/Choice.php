<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** One of several words; the first is the neutral one. */
final readonly class Choice extends Parameter
{
    /** @param non-empty-list<string> $words */
    public function __construct(string $name, public array $words)
    {
        parent::__construct($name, $words[0]);
    }
}
