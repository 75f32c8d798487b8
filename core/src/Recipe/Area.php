<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** One thing treated in a shot: outline, motion, pick and touches. */
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
        public BlinkGuard $blinkGuard,
        public array $touches,
        public ?Pick $pick = null,
        public ?Pair $pair = null,
    ) {}

    public function withOutline(Outline $outline): self
    {
        return new self($this->id, $this->name, $this->part, $this->person, $this->on, $outline, $this->motion, $this->live, $this->strength, $this->blinkGuard, $this->touches, $this->pick, $this->pair);
    }

    public function withPick(?Pick $pick): self
    {
        return new self($this->id, $this->name, $this->part, $this->person, $this->on, $this->outline, $this->motion, $this->live, $this->strength, $this->blinkGuard, $this->touches, $pick, $this->pair);
    }

    /**
     * With other touches, and linked to none.
     *
     * @param list<Touch> $touches
     */
    public function withTouches(array $touches): self
    {
        return new self($this->id, $this->name, $this->part, $this->person, $this->on, $this->outline, $this->motion, $this->live, $this->strength, $this->blinkGuard, $touches, $this->pick);
    }

    /** Switched off: still there for others to ride on and be made of. */
    public function off(): self
    {
        return new self($this->id, $this->name, $this->part, $this->person, false, $this->outline, $this->motion, $this->live, $this->strength, $this->blinkGuard, $this->touches, $this->pick, $this->pair);
    }

    /** With a pick and no shapes at all, the outline is the whole frame. */
    public function outlined(): self
    {
        return $this->pick !== null && $this->outline->shapes === [] ? $this->withOutline(new Outline($this->outline->at, invert: true)) : $this;
    }
}
