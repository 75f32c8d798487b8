<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** An ellipse. */
final readonly class Ellipse extends Shape
{
    public const KIND = 'ellipse';

    /**
     * @param array{float, float} $centre
     * @param array{float, float} $radii  half axes, over 0
     * @param list<ShapeKey>      $keys   by rising frame
     */
    public function __construct(
        string $id,
        public array $centre,
        public array $radii,
        public float $turn = 0.0,
        float $featherIn = 0.0,
        float $featherOut = 0.0,
        float $grow = 0.0,
        float $opacity = 1.0,
        Join $join = Join::Add,
        array $keys = [],
        ?Motion $motion = null,
    ) {
        parent::__construct($id, $featherIn, $featherOut, $grow, $opacity, $join, $keys, $motion);
    }

    public function kind(): string
    {
        return self::KIND;
    }

    protected function geometry(): array
    {
        return ['centre' => $this->centre, 'radii' => $this->radii, 'turn' => $this->turn];
    }

    protected function with(array $values, array $keys = []): static
    {
        return new self(
            $this->id,
            $values['centre'],
            $values['radii'],
            $values['turn'],
            $values['featherIn'],
            $values['featherOut'],
            $values['grow'],
            $values['opacity'],
            $this->join,
            $keys,
            $this->motion,
        );
    }
}
