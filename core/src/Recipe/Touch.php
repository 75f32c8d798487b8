<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

use Cossel\Core\Touch\Kind;

/** One adjustment: its kind, its settings, where and how strongly it acts. */
final readonly class Touch
{
    /** @param array<string, mixed> $settings one for every parameter of the kind; numbers as {@see Keyed} */
    public function __construct(
        public string $id,
        public Kind $kind,
        public array $settings,
        public Side $side = Side::Inside,
        public bool $on = true,
        public Keyed $amount = new Keyed(1.0),
    ) {}

    /** @return array<string, mixed> the settings as they are on a frame */
    public function values(int $frame): array
    {
        return array_map(static fn(mixed $setting): mixed => $setting instanceof Keyed ? $setting->at($frame) : $setting, $this->settings);
    }

    public function withAmount(Keyed $amount): self
    {
        return new self($this->id, $this->kind, $this->settings, $this->side, $this->on, $amount);
    }

    /**
     * With a number changed, on every keyframe alike.
     *
     * @param callable(float): float $change
     */
    public function changed(string $setting, callable $change): self
    {
        $settings = $this->settings;
        if (($settings[$setting] ?? null) instanceof Keyed) {
            $settings[$setting] = $settings[$setting]->each($change);
        }

        return new self($this->id, $this->kind, $settings, $this->side, $this->on, $this->amount);
    }
}
