<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/**
 * How far each place of a surface stands out towards the camera: depths on a lattice over a rectangle, smooth between
 * them (cubic convolution; R. Keys, IEEE ASSP 29(6), 1981) and level beyond. Lengths and depths in picture heights.
 */
final readonly class Relief
{
    private const COLUMNS = 24;
    private const ROWS = 36;
    /** Rounds in which a place is looked for that a shift along the depth takes to a given one. */
    private const ROUNDS = 14;
    /** Share of its width under which the surface is seen too much from the side to go straight to that place. */
    private const STEEP = 0.45;
    /** Places along a line of sight. */
    private const SIGHTS = 24;
    private const GLANCES = 6;

    /** By how much it rises along x or y, at most, from one place of the lattice to the next. */
    public float $steepest;
    private float $nearest;

    /** @param non-empty-list<float> $depths row by row; at least four of each */
    public function __construct(
        public float $x,
        public float $y,
        public float $width,
        public float $height,
        public int $columns,
        public int $rows,
        public array $depths,
    ) {
        if ($columns < 4 || $rows < 4 || count($depths) !== $columns * $rows || $width <= 0.0 || $height <= 0.0) {
            throw new \InvalidArgumentException('A relief is a lattice of at least four by four depths over a rectangle.');
        }
        $this->nearest = max($depths);
        $steepest = 0.0;
        [$across, $along] = [$width / ($columns - 1), $height / ($rows - 1)];
        foreach ($depths as $k => $depth) {
            if (($k + 1) % $columns !== 0) {
                $steepest = max($steepest, abs($depths[$k + 1] - $depth) / $across);
            }
            if (isset($depths[$k + $columns])) {
                $steepest = max($steepest, abs($depths[$k + $columns] - $depth) / $along);
            }
        }
        $this->steepest = $steepest;
    }

    /** @param callable(float, float): float $depth at a place */
    public static function over(float $x, float $y, float $width, float $height, callable $depth): self
    {
        $depths = [];
        for ($j = 0; $j < self::ROWS; ++$j) {
            for ($i = 0; $i < self::COLUMNS; ++$i) {
                $depths[] = $depth($x + $width * $i / (self::COLUMNS - 1), $y + $height * $j / (self::ROWS - 1));
            }
        }

        return new self($x, $y, $width, $height, self::COLUMNS, self::ROWS, $depths);
    }

    /** @return array<string, mixed> as it is kept: depths to a millionth, nothing anybody sees */
    public function document(): array
    {
        return [
            'x' => $this->x,
            'y' => $this->y,
            'width' => $this->width,
            'height' => $this->height,
            'columns' => $this->columns,
            'rows' => $this->rows,
            'depths' => array_map(static fn(float $z): float => round($z, 6) + 0.0, $this->depths),
        ];
    }

    /** The same in other units. */
    public function scaled(float $by): self
    {
        $depths = array_map(static fn(float $z): float => $z * $by, $this->depths);

        return new self($this->x * $by, $this->y * $by, $this->width * $by, $this->height * $by, $this->columns, $this->rows, $depths);
    }

    public function depth(float $x, float $y): float
    {
        return $this->at($x, $y)[0];
    }

    /** @return array{float, float} by how much the depth rises along x and along y */
    public function slope(float $x, float $y): array
    {
        [, $alongX, $alongY] = $this->at($x, $y);

        return [$alongX, $alongY];
    }

    /**
     * The place that a shift along its depth takes to this one: q + shift z(q) = (x, y); of several the nearest to the camera,
     * which is the one that is seen. Along the line of sight that is one equation for the depth.
     *
     * @param array{float, float} $shift
     *
     * @return array{float, float}
     */
    public function back(float $x, float $y, array $shift): array
    {
        $z = $this->depth($x, $y);
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            [$depth, $zx, $zy] = $this->at($x - $shift[0] * $z, $y - $shift[1] * $z);
            $steep = 1.0 + $shift[0] * $zx + $shift[1] * $zy;
            if ($steep < self::STEEP) {
                $z = $this->first($x, $y, $shift);
                break;
            }
            $z += ($depth - $z) / $steep;
            if (abs($depth - $z) < 1e-9) {
                $z = $this->hides($x, $y, $shift, $z) ? $this->first($x, $y, $shift) : $z;
                break;
            }
        }

        return [$x - $shift[0] * $z, $y - $shift[1] * $z];
    }

    /**
     * Whether the surface comes in front of what lies at a depth on a line of sight.
     *
     * @param array{float, float} $shift
     */
    private function hides(float $x, float $y, array $shift, float $behind): bool
    {
        $step = ($this->nearest - $behind) / self::GLANCES;
        for ($k = 1; $k < self::GLANCES; ++$k) {
            $z = $behind + $k * $step;
            if ($this->depth($x - $shift[0] * $z, $y - $shift[1] * $z) > $z) {
                return true;
            }
        }

        return false;
    }

    /**
     * Where a line of sight meets the surface first, coming from the camera.
     *
     * @param array{float, float} $shift
     */
    private function first(float $x, float $y, array $shift): float
    {
        [$near, $far] = [$this->nearest, min($this->depths)];
        $over = fn(float $z): float => $z - $this->depth($x - $shift[0] * $z, $y - $shift[1] * $z);
        $step = ($near - $far) / self::SIGHTS;
        $z = $near;
        $closest = [INF, $near];
        while ($z > $far && ($gap = $over($z)) > 0.0) {
            $closest = min($closest, [$gap, $z]);
            $z -= $step;
        }
        if ($z <= $far) {
            // It passes the surface by.
            return $closest[1];
        }
        [$in, $out] = [$z, $z + $step];
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $middle = ($in + $out) / 2;
            $over($middle) > 0.0 ? $out = $middle : $in = $middle;
        }

        return ($in + $out) / 2;
    }

    /**
     * This relief as it lies in the picture after p goes to motion(p + shift z(p)). Depths stay as they are.
     *
     * @param array{float, float} $shift
     */
    public function carried(Matrix $motion, array $shift): self
    {
        $xs = $ys = [];
        for ($j = 0; $j <= 4; ++$j) {
            for ($i = 0; $i <= 4; ++$i) {
                [$x, $y] = [$this->x + $this->width * $i / 4, $this->y + $this->height * $j / 4];
                $z = $this->depth($x, $y);
                [$xs[], $ys[]] = $motion->apply($x + $shift[0] * $z, $y + $shift[1] * $z);
            }
        }
        $back = $motion->inverse();

        $depth = fn(float $x, float $y): float => $this->depth(...$this->back(...[...$back->apply($x, $y), $shift]));

        return self::over(min($xs), min($ys), max($xs) - min($xs), max($ys) - min($ys), $depth);
    }

    /** @return array{float, float, float} depth and its rise along x and y */
    private function at(float $x, float $y): array
    {
        [$i, $a, $inX] = self::cell(($x - $this->x) / $this->width * ($this->columns - 1), $this->columns);
        [$j, $b, $inY] = self::cell(($y - $this->y) / $this->height * ($this->rows - 1), $this->rows);
        [$wx, $dx] = self::weights($a);
        [$wy, $dy] = self::weights($b);
        $z = $zx = $zy = 0.0;
        for ($r = 0; $r < 4; ++$r) {
            $row = max(0, min($this->rows - 1, $j + $r - 1)) * $this->columns;
            $v = $s = 0.0;
            for ($c = 0; $c < 4; ++$c) {
                $d = $this->depths[$row + max(0, min($this->columns - 1, $i + $c - 1))];
                $v += $wx[$c] * $d;
                $s += $dx[$c] * $d;
            }
            $z += $wy[$r] * $v;
            $zx += $wy[$r] * $s;
            $zy += $dy[$r] * $v;
        }

        return [$z, $inX ? $zx * ($this->columns - 1) / $this->width : 0.0, $inY ? $zy * ($this->rows - 1) / $this->height : 0.0];
    }

    /** @return array{int, float, bool} the cell, how far into it, and whether the place lies over the lattice at all */
    private static function cell(float $u, int $count): array
    {
        $in = $u >= 0.0 && $u <= $count - 1;
        $u = max(0.0, min($count - 1.0, $u));
        $i = min($count - 2, (int) $u);

        return [$i, $u - $i, $in];
    }

    /** @return list<array{float, float, float, float}> of the four values round a place, and of their rise */
    private static function weights(float $t): array
    {
        $s = $t * $t;
        $c = $s * $t;

        return [
            [-0.5 * $t + $s - 0.5 * $c, 1.0 - 2.5 * $s + 1.5 * $c, 0.5 * $t + 2.0 * $s - 1.5 * $c, 0.5 * ($c - $s)],
            [-0.5 + 2.0 * $t - 1.5 * $s, -5.0 * $t + 4.5 * $s, 0.5 + 4.0 * $t - 4.5 * $s, 1.5 * $s - $t],
        ];
    }
}
