<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The people a frame shows, as they are seen there: all of them, or one. They are measured on every frame, so it has no motion. */
final readonly class People extends Shape
{
    public const KIND = 'people';

    /**
     * @param array{float, float}|null $place on the face of the one that is meant; null for all
     * @param list<ShapeKey>           $keys  by rising frame
     */
    public function __construct(
        string $id,
        public ?array $place = null,
        float $featherIn = 0.0,
        float $featherOut = 0.0,
        float $grow = 0.0,
        float $opacity = 1.0,
        Join $join = Join::Add,
        array $keys = [],
    ) {
        parent::__construct($id, $featherIn, $featherOut, $grow, $opacity, $join, $keys, null);
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function isDrawn(): bool
    {
        return false;
    }

    protected function geometry(): array
    {
        return [];
    }

    protected function with(array $values, array $keys = []): static
    {
        return new self(
            $this->id,
            $this->place,
            $values['featherIn'],
            $values['featherOut'],
            $values['grow'],
            $values['opacity'],
            $this->join,
            $keys,
        );
    }

    /** @param array{float, float}|null $place */
    public function placed(?array $place): self
    {
        return new self($this->id, $place, $this->featherIn, $this->featherOut, $this->grow, $this->opacity, $this->join, $this->keys);
    }
}
