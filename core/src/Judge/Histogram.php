<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;

/** How often each level stands in a picture, of luma (BT.709 weights) and of R', G', B', from -10 % to 110 %. */
final class Histogram
{
    /** @var array<string, list<int>> */
    private array $counts;

    public function __construct(public readonly int $bins)
    {
        $this->counts = array_fill_keys(['luma', 'red', 'green', 'blue'], array_fill(0, $bins, 0));
    }

    /** @param Grey|null $matte counts only where it is over a half */
    public function add(Planes $planes, ?Grey $matte = null): void
    {
        $w = $matte?->window($planes->rect)->v;
        foreach ($planes->r as $i => $r) {
            if ($w !== null && $w[$i] < 0.5) {
                continue;
            }
            [$g, $b] = [$planes->g[$i], $planes->b[$i]];
            ++$this->counts['luma'][$this->bin(Luma::at($r, $g, $b))];
            ++$this->counts['red'][$this->bin($r)];
            ++$this->counts['green'][$this->bin($g)];
            ++$this->counts['blue'][$this->bin($b)];
        }
    }

    /** @return array<string, list<int>> by channel, from dark to light */
    public function counts(): array
    {
        return $this->counts;
    }

    private function bin(float $v): int
    {
        return max(0, min($this->bins - 1, (int) floor(($v - Waveform::FROM) / (Waveform::TO - Waveform::FROM) * $this->bins)));
    }
}
