<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** An ellipse of an outline. Lengths in picture heights, angles in degrees clockwise. */
final readonly class Ellipse
{
    /** The fields a keyframe may set; the first two hold a pair. */
    public const KEYED = ['centre', 'radii', 'turn', 'featherIn', 'featherOut', 'grow', 'opacity'];

    /**
     * @param array{float, float} $centre
     * @param array{float, float} $radii  half axes, over 0
     * @param list<ShapeKey>      $keys   by rising frame
     */
    public function __construct(
        public string $id,
        public array $centre,
        public array $radii,
        public float $turn = 0.0,
        public float $featherIn = 0.0,
        public float $featherOut = 0.0,
        public float $grow = 0.0,
        public float $opacity = 1.0,
        public Join $join = Join::Add,
        public array $keys = [],
    ) {}

    /** The ellipse as its keyframes make it on a frame. */
    public function at(int $frame): self
    {
        if ($this->keys === []) {
            return $this;
        }

        return new self(
            $this->id,
            $this->pair('centre', $frame, $this->centre),
            $this->pair('radii', $frame, $this->radii),
            $this->number('turn', $frame, $this->turn),
            $this->number('featherIn', $frame, $this->featherIn),
            $this->number('featherOut', $frame, $this->featherOut),
            $this->number('grow', $frame, $this->grow),
            $this->number('opacity', $frame, $this->opacity),
            $this->join,
        );
    }

    private function number(string $name, int $frame, float $unkeyed): float
    {
        return Keyed::blend($this->keys, $frame, static function (ShapeKey $key) use ($name): ?float {
            $v = $key->values[$name] ?? null;

            return is_float($v) ? $v : null;
        }) ?? $unkeyed;
    }

    /**
     * @param array{float, float} $unkeyed
     *
     * @return array{float, float}
     */
    private function pair(string $name, int $frame, array $unkeyed): array
    {
        $part = fn(int $i): float => Keyed::blend($this->keys, $frame, static function (ShapeKey $key) use ($name, $i): ?float {
            $v = $key->values[$name] ?? null;

            return is_array($v) ? $v[$i] : null;
        }) ?? $unkeyed[$i];

        return [$part(0), $part(1)];
    }
}
