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

    public function is(Part ...$parts): bool
    {
        return in_array(Part::tryFrom($this->part), $parts, true);
    }

    public function withOutline(Outline $outline): self
    {
        return $this->with(outline: $outline);
    }

    public function withMotion(Motion $motion): self
    {
        return $this->with(motion: $motion);
    }

    public function withPick(?Pick $pick): self
    {
        return $this->with(pick: $pick);
    }

    public function withStrength(Keyed $strength): self
    {
        return $this->with(strength: $strength);
    }

    public function withBlinkGuard(BlinkGuard $guard): self
    {
        return $this->with(blinkGuard: $guard);
    }

    /**
     * With other touches, its own: linked to none.
     *
     * @param list<Touch> $touches
     */
    public function withTouches(array $touches): self
    {
        return $this->with(touches: $touches, pair: $this->pair?->linked === true ? null : $this->pair);
    }

    /** Doing what the other one of its pair does. */
    public function linked(): self
    {
        return $this->pair === null ? $this : $this->with(touches: [], pair: new Pair($this->pair->with, true));
    }

    /** Switched off: still there for others to ride on and be made of. */
    public function off(): self
    {
        return $this->with(on: false);
    }

    /** With a pick and no shapes at all, the outline is the whole frame. */
    public function outlined(): self
    {
        return $this->pick !== null && $this->outline->shapes === []
            ? $this->withOutline(new Outline($this->outline->at, invert: true))
            : $this;
    }

    private function with(mixed ...$changes): self
    {
        return new self(...[...get_object_vars($this), ...$changes]);
    }
}
