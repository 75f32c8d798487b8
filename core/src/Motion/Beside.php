<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Face\Steadied;

/**
 * How far the edge of a part was found from where landmarks put it, frame by frame, made steady: sharp edges, which tell the same on every
 * frame, are followed closely, and of soft ones, which do not, what is left is the mean of many frames.
 */
final class Beside
{
    /** @var array<int, list<float>> by frame */
    private array $found = [];
    /** @var array<int, list<float>> where landmarks put it, by frame */
    private array $there = [];

    /**
     * @param list<float>      $there where landmarks put it: any numbers
     * @param list<float>|null $found where its edge was found; null where it was not
     */
    public function add(int $frame, array $there, ?array $found): void
    {
        $this->there[$frame] = $there;
        if ($found !== null) {
            $this->found[$frame] = array_map(static fn(float $a, float $b): float => $a - $b, $found, $there);
        }
    }

    /** @return array<int, list<float>> where it is on each of the frames that landmarks tell of */
    public function settled(): array
    {
        ksort($this->there);
        ksort($this->found);
        $rows = [];
        foreach (array_keys($this->there) as $frame) {
            $rows[$frame] = $this->found[$frame] ?? $this->between($frame);
        }
        $settled = [];
        foreach (Steadied::runs($rows) as $frame => $row) {
            $settled[$frame] = array_map(static fn(float $a, float $b): float => $a + $b, $this->there[$frame], $row);
        }

        return $settled;
    }

    /** @return list<float> laid between the nearest frames on which it was found */
    private function between(int $frame): array
    {
        $before = $after = null;
        foreach (array_keys($this->found) as $f) {
            if ($f < $frame) {
                $before = $f;
            } elseif ($after === null) {
                $after = $f;
            }
        }
        [$from, $to] = [$before ?? $after, $after ?? $before];
        if ($from === null || $to === null) {
            return array_map(static fn(): float => 0.0, $this->there[$frame]);
        }
        $t = $from === $to ? 0.0 : ($frame - $from) / ($to - $from);

        return array_map(static fn(float $a, float $b): float => $a + $t * ($b - $a), $this->found[$from], $this->found[$to]);
    }
}
