<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A closed path of cubic Bézier pieces. Where it crosses itself, what lies inside twice lies outside (even-odd). */
final readonly class Path extends Shape
{
    public const KIND = 'path';

    /**
     * @param list<PathPoint> $points two or more; keyframes have as many
     * @param list<ShapeKey>  $keys   by rising frame
     */
    public function __construct(
        string $id,
        public array $points,
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
        return ['points' => $this->points];
    }

    protected function with(array $values, array $keys = []): static
    {
        return new self(
            $this->id,
            $values['points'],
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
