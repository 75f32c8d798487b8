<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Another area's matte as a shape: where that area is, on its own motion. */
final readonly class AreaShape extends Shape
{
    public const KIND = 'area';

    /**
     * @param string         $of   id of the other area
     * @param list<ShapeKey> $keys by rising frame
     */
    public function __construct(string $id, public string $of, float $opacity = 1.0, Join $join = Join::Add, array $keys = [])
    {
        parent::__construct($id, 0.0, 0.0, 0.0, $opacity, $join, $keys, null);
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function isDrawn(): bool
    {
        return false;
    }

    public function values(): array
    {
        return ['opacity' => $this->opacity];
    }

    protected function geometry(): array
    {
        return [];
    }

    protected function with(array $values, array $keys = []): static
    {
        return new self($this->id, $this->of, $values['opacity'], $this->join, $keys);
    }

    /** Its edges are the other area's own; nothing here to harden or grow. */
    public function hard(float $more): static
    {
        return new self($this->id, $this->of, 1.0, $this->join);
    }
}
