<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

use Cossel\Core\Touch\Kind;

/** One adjustment: its kind, its settings, where and how strongly it acts. */
final readonly class Touch
{
    /** @param array<string, Keyed> $settings one for every parameter of the kind */
    public function __construct(
        public string $id,
        public Kind $kind,
        public array $settings,
        public Side $side = Side::Inside,
        public bool $on = true,
        public Keyed $amount = new Keyed(1.0),
    ) {}

    /** @return array<string, float> */
    public function values(int $frame): array
    {
        return array_map(static fn(Keyed $keyed): float => $keyed->at($frame), $this->settings);
    }
}
