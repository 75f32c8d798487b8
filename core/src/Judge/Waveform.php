<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/**
 * How often each level stands in each column of a picture: the trade's waveform, of luma 0.2126 R' + 0.7152 G' +
 * 0.0722 B' (ITU-R BT.709-6), or of one channel; three side by side are the parade. Levels go from -10 % at the bottom to
 * 110 % at the top.
 */
final class Waveform
{
    public const FROM = -0.1;
    public const TO = 1.1;

    /** @var list<int> counts, row 0 is the highest level */
    private array $counts;

    /**
     * @param Rect                       $picture the columns it spreads over
     * @param array{float, float, float} $mix     how much of R', G', B' a level is
     */
    public function __construct(
        private readonly Rect $picture,
        public readonly int $columns,
        public readonly int $rows,
        private readonly array $mix = Luma::WEIGHTS,
    ) {
        $this->counts = array_fill(0, $columns * $rows, 0);
    }

    /** @param Grey|null $matte counts only where it is over a half */
    public function add(Planes $planes, ?Grey $matte = null): void
    {
        $w = $matte?->window($planes->rect)->v;
        $width = $planes->rect->width;
        $scale = $this->rows / (self::TO - self::FROM);
        [$red, $green, $blue] = $this->mix;
        for ($x = 0; $x < $width; ++$x) {
            $column = intdiv(($planes->rect->x + $x - $this->picture->x) * $this->columns, max(1, $this->picture->width));
            if ($column < 0 || $column >= $this->columns) {
                continue;
            }
            for ($i = $x, $n = count($planes->r); $i < $n; $i += $width) {
                if ($w !== null && $w[$i] < 0.5) {
                    continue;
                }
                $level = $red * $planes->r[$i] + $green * $planes->g[$i] + $blue * $planes->b[$i];
                $row = $this->rows - 1 - (int) floor(($level - self::FROM) * $scale);
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
