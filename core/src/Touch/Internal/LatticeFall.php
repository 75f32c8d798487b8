<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Rect;

/** It is known on a lattice, and laid straight between. */
final readonly class LatticeFall implements Fall
{
    /** Cells along the longer side, at most, and pixels to a cell, at least. */
    private const CELLS = 40;
    private const LEAST = 4;

    /** @param list<float> $values on corners of cells, row by row */
    private function __construct(
        private int $x,
        private int $y,
        private int $cell,
        private int $columns,
        private int $rows,
        private array $values,
    ) {}

    /** @param \Closure(float, float): float $value at a place, pixels */
    public static function over(Rect $bounds, \Closure $value): self
    {
        $cell = max(self::LEAST, (int) ceil(max($bounds->width, $bounds->height) / self::CELLS));
        $columns = intdiv($bounds->width, $cell) + 2;
        $rows = intdiv($bounds->height, $cell) + 2;
        $values = [];
        for ($j = 0; $j < $rows; ++$j) {
            for ($i = 0; $i < $columns; ++$i) {
                $values[] = $value($bounds->x + $i * $cell + 0.5, $bounds->y + $j * $cell + 0.5);
            }
        }

        return new self($bounds->x, $bounds->y, $cell, $columns, $rows, $values);
    }

    public function runs(int $x, int $y, int $n): array
    {
        $j = max(0, min($this->rows - 2, intdiv($y - $this->y, $this->cell)));
        $down = ($y - $this->y - $j * $this->cell) / $this->cell;
        $runs = [];
        for ($end = $x + $n; $x < $end;) {
            $i = max(0, min($this->columns - 2, intdiv($x - $this->x, $this->cell)));
            $at = $j * $this->columns + $i;
            $left = $this->values[$at] + ($this->values[$at + $this->columns] - $this->values[$at]) * $down;
            $right = $this->values[$at + 1] + ($this->values[$at + 1 + $this->columns] - $this->values[$at + 1]) * $down;
            $start = $this->x + $i * $this->cell;
            $next = $i === $this->columns - 2 ? $end : min($end, max($x + 1, $start + $this->cell));
            $step = ($right - $left) / $this->cell;
            $runs[] = [$next - $x, $left + $step * ($x - $start), $step];
            $x = $next;
        }

        return $runs;
    }
}
