<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * A shape of an outline. Lengths in picture heights, angles in degrees clockwise, stated on the outline's frame.
 * The kinds are {@see Ellipse}, {@see Box}, {@see Path}, {@see AreaShape} and {@see People}.
 */
abstract readonly class Shape
{
    /**
     * @param float          $featherIn  width of the fall-off inside the edge
     * @param float          $featherOut and outside it
     * @param float          $grow       by how much the edge is moved outwards (inwards below 0)
     * @param list<ShapeKey> $keys       by rising frame
     * @param Motion|null    $motion     of its own; null for the area's
     */
    public function __construct(
        public string $id,
        public float $featherIn,
        public float $featherOut,
        public float $grow,
        public float $opacity,
        public Join $join,
        public array $keys,
        public ?Motion $motion,
    ) {}

    /** The word for it in a recipe. */
    abstract public function kind(): string;

    /** Whether it is drawn: has an edge of its own, stated on the outline's frame, and goes where its motion takes it. */
    public function isDrawn(): bool
    {
        return true;
    }

    /** @return array<string, mixed> the values a keyframe may set, by their field names */
    public function values(): array
    {
        return [
            ...$this->geometry(),
            'featherIn' => $this->featherIn,
            'featherOut' => $this->featherOut,
            'grow' => $this->grow,
            'opacity' => $this->opacity,
        ];
    }

    /** @return array<string, mixed> those of them that only this kind has */
    abstract protected function geometry(): array;

    /**
     * The same shape with other values and keyframes.
     *
     * @param array<string, mixed> $values all that {@see values} names
     * @param list<ShapeKey>       $keys
     */
    abstract protected function with(array $values, array $keys = []): static;

    /**
     * The shape with its values changed, those of its keyframes alike.
     *
     * @param callable(array<string, mixed>): array<string, mixed> $change of all that {@see values} names
     */
    public function changed(callable $change): static
    {
        $values = $this->values();
        $keys = array_map(static fn(ShapeKey $key): ShapeKey => new ShapeKey(
            $key->frame,
            array_intersect_key($change([...$values, ...$key->values]), $key->values),
            $key->ease,
        ), $this->keys);

        return $this->with($change($values), $keys);
    }

    /** The shape as its keyframes make it on a frame. */
    public function at(int $frame): static
    {
        if ($this->keys === []) {
            return $this;
        }
        $values = $this->values();
        foreach ($values as $field => $unkeyed) {
            $values[$field] = ShapeKey::blend($this->keys, $frame, $field) ?? $unkeyed;
        }

        return $this->with($values);
    }

    /** The shape without feather, wholly opaque and grown by more, as a follower looks at it. */
    public function hard(float $more): static
    {
        return $this->with([...$this->values(), 'featherIn' => 0.0, 'featherOut' => 0.0, 'grow' => $this->grow + $more, 'opacity' => 1.0]);
    }
}
