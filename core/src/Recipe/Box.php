<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A box with corners from square to round. */
final readonly class Box extends Shape
{
    public const KIND = 'box';

    /**
     * @param array{float, float} $centre
     * @param array{float, float} $radii  half its width and half its height, over 0
     * @param float               $round  0 square, 1 corners as round as the shorter side allows
     * @param list<ShapeKey>      $keys   by rising frame
     */
    public function __construct(
        string $id,
        public array $centre,
        public array $radii,
        public float $turn = 0.0,
        public float $round = 0.0,
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
        return ['centre' => $this->centre, 'radii' => $this->radii, 'turn' => $this->turn, 'round' => $this->round];
    }

    protected function with(array $values, array $keys = []): static
    {
        return new self(
            $this->id,
            $values['centre'],
            $values['radii'],
            $values['turn'],
            $values['round'],
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
