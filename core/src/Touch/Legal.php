<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;

/**
 * Keeps levels inside the preferred range of EBU R 103 (version 3.0, 2020): R', G', B' from -5 % to 105 %, luma from
 * -1 % to 103 %. A soft knee begins `knee` before each limit: beyond it a value v becomes limit - knee² / (v - limit +
 * 2 knee), which joins with slope 1 and comes ever closer to the limit. First each channel, then luma by the same amount
 * on all three. What lies between the knees stays as it is, bit for bit.
 */
final class Legal implements Kind
{
    use Pointwise;

    public const LEAST = -0.05;
    public const MOST = 1.05;
    public const LEAST_LUMA = -0.01;
    public const MOST_LUMA = 1.03;

    public function name(): string
    {
        return 'legal';
    }

    public function parameters(): array
    {
        return [new Choice('standard', ['r103']), new Number('knee', 0, 0.1, 0.02)];
    }

    public function isNeutral(array $values): bool
    {
        return false;
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $at = $weight->matte->rect;
        $stride = $planes->rect->width;
        for ($y = 0; $y < $at->height; ++$y) {
            $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
            self::row($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $y * $at->width, $at->width, $weight->offset, $weight->scale, max(1e-9, $values['knee']));
        }
    }

    /** A value held between two limits. */
    private static function held(float $v, float $least, float $most, float $knee): float
    {
        if ($v > $most - $knee) {
            return $most - $knee * $knee / ($v - $most + 2 * $knee);
        }

        return $v < $least + $knee ? $least + $knee * $knee / ($least - $v + 2 * $knee) : $v;
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, float $knee): void
    {
        // Inside these, nothing is to be done: few pixels go on.
        $low = self::LEAST_LUMA + $knee;
        $high = self::MOST_LUMA - $knee;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $x = $r[$i];
            $y = $g[$i];
            $z = $b[$i];
            if ($x >= $low && $x <= $high && $y >= $low && $y <= $high && $z >= $low && $z <= $high) {
                continue;
            }
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $red = self::held($x, self::LEAST, self::MOST, $knee);
            $green = self::held($y, self::LEAST, self::MOST, $knee);
            $blue = self::held($z, self::LEAST, self::MOST, $knee);
            $luma = 0.2126 * $red + 0.7152 * $green + 0.0722 * $blue;
            $shift = self::held($luma, self::LEAST_LUMA, self::MOST_LUMA, $knee) - $luma;
            $r[$i] = $x + ($red + $shift - $x) * $k;
            $g[$i] = $y + ($green + $shift - $y) * $k;
            $b[$i] = $z + ($blue + $shift - $z) * $k;
        }
    }
}
