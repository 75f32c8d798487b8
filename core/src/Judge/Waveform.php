<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Picture\Planes;

/**
 * How often each luma level stands in each column of a picture: the trade's waveform. Luma is
 * 0.2126 R' + 0.7152 G' + 0.0722 B' (ITU-R BT.709-6); levels go from -10 % at the bottom to 110 % at the top.
 */
final class Waveform
{
    public const FROM = -0.1;
    public const TO = 1.1;

    /** @var list<int> counts, row 0 is the highest level */
    private array $counts;

    public function __construct(private readonly int $pictureWidth, public readonly int $columns, public readonly int $rows)
    {
        $this->counts = array_fill(0, $columns * $rows, 0);
    }

    public function add(Planes $planes): void
    {
        $width = $planes->rect->width;
        $scale = $this->rows / (self::TO - self::FROM);
        for ($x = 0; $x < $width; ++$x) {
            $column = intdiv(($planes->rect->x + $x) * $this->columns, $this->pictureWidth);
            for ($i = $x, $n = count($planes->r); $i < $n; $i += $width) {
                $luma = 0.2126 * $planes->r[$i] + 0.7152 * $planes->g[$i] + 0.0722 * $planes->b[$i];
                $row = $this->rows - 1 - (int) floor(($luma - self::FROM) * $scale);
                $row = $row < 0 ? 0 : ($row >= $this->rows ? $this->rows - 1 : $row);
                ++$this->counts[$row * $this->columns + $column];
            }
        }
    }

    /** @return list<int> row by row from the highest level down */
    public function counts(): array
    {
        return $this->counts;
    }
}
