<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Beyond;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Sparing;

/** Channels and luma held between their limits. */
final readonly class LegalEffect implements Sparing
{
    use Pointwise;

    /** Between these, nothing is to be done with any channel. */
    private float $low;
    private float $high;

    /** @param float $knee more than 0 */
    public function __construct(private float $knee)
    {
        $this->low = Legal::LEAST_LUMA + $knee;
        $this->high = Legal::MOST_LUMA - $knee;
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            self::row(
                $planes->r,
                $planes->g,
                $planes->b,
                $i,
                $weight->matte->v,
                $j,
                $weight->rect()->width,
                $weight->offset,
                $weight->scale,
                $this->knee,
                $this->low,
                $this->high,
            );
        }
    }

    public function doubtful(Frame $frame): array
    {
        return Beyond::of($frame, $this->low, $this->high);
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
    private static function row(
        array &$r,
        array &$g,
        array &$b,
        int $i,
        array $w,
        int $j,
        int $n,
        float $offset,
        float $scale,
        float $knee,
        float $low,
        float $high,
    ): void {
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        // Few pixels go on.
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
            $red = self::held($x, Legal::LEAST, Legal::MOST, $knee);
            $green = self::held($y, Legal::LEAST, Legal::MOST, $knee);
            $blue = self::held($z, Legal::LEAST, Legal::MOST, $knee);
            $luma = $kr * $red + $kg * $green + $kb * $blue;
            $shift = self::held($luma, Legal::LEAST_LUMA, Legal::MOST_LUMA, $knee) - $luma;
            $r[$i] = $x + ($red + $shift - $x) * $k;
            $g[$i] = $y + ($green + $shift - $y) * $k;
            $b[$i] = $z + ($blue + $shift - $z) * $k;
        }
    }
}
