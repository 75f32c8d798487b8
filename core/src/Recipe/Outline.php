<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The shapes of an area, stated as they stand on one frame. */
final readonly class Outline
{
    /** @param list<Shape> $shapes joined in order */
    public function __construct(public int $at, public array $shapes = [], public bool $invert = false) {}

    /** As a follower looks at it: hard-edged, grown by a margin, seen from its own frame, never inverted, and without people, who move. */
    public function hard(float $margin): self
    {
        return new self(
            $this->at,
            array_map(
                fn(Shape $shape): Shape => $shape->at($this->at)->hard($shape->join === Join::Cut ? 0.0 : $margin),
                array_values(array_filter($this->shapes, static fn(Shape $shape): bool => !$shape instanceof People)),
            ),
        );
    }

    /** The path that is followed where one is followed point by point: the first. */
    public function path(): ?Path
    {
        foreach ($this->shapes as $shape) {
            if ($shape instanceof Path) {
                return $shape;
            }
        }

        return null;
    }

    /**
     * With its shapes changed.
     *
     * @param callable(Shape): Shape $change
     */
    public function withShapes(callable $change): self
    {
        return new self($this->at, array_map($change, $this->shapes), $this->invert);
    }

    /** @throws UnknownId */
    public function shape(string $id): Shape
    {
        foreach ($this->shapes as $shape) {
            if ($shape->id === $id) {
                return $shape;
            }
        }

        throw UnknownId::shape($id);
    }
}
