<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;

/**
 * How often each colour difference stands in a picture: Cb to the right, Cr upwards, both -0.5 to 0.5 of BT.709
 * (ITU-R BT.709-6, 3.3). Skin of whatever depth lies near one line: that of +I of the old NTSC system, 123° from +Cb.
 */
final class Vectorscope
{
    /** Degrees from +Cb, anticlockwise. */
    public const SKIN = 123.0;

    /** @var list<int> row 0 is the highest Cr */
    private array $counts;

    /**
     * @param int   $size of its sides
     * @param float $zoom how many times the middle is enlarged; what lies beyond counts at the border
     */
    public function __construct(public readonly int $size, private readonly float $zoom = 1.0)
    {
        $this->counts = array_fill(0, $size * $size, 0);
    }

    /** @param Grey|null $matte counts only where it is over a half */
    public function add(Planes $planes, ?Grey $matte = null): void
    {
        $w = $matte?->window($planes->rect)->v;
        $last = $this->size - 1;
        $scale = $this->size * $this->zoom;
        foreach ($planes->r as $i => $r) {
            if ($w !== null && $w[$i] < 0.5) {
                continue;
            }
            $b = $planes->b[$i];
            $luma = Luma::at($r, $planes->g[$i], $b);
            $x = (int) (($b - $luma) / 1.8556 * $scale + $this->size / 2);
            $y = $last - (int) (($r - $luma) / 1.5748 * $scale + $this->size / 2);
            ++$this->counts[max(0, min($last, $y)) * $this->size + max(0, min($last, $x))];
        }
    }

    /** @return list<int> row by row */
    public function counts(): array
    {
        return $this->counts;
    }
}
