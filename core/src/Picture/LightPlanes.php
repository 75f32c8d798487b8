<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

use Cossel\Core\Colour\Transfer;

/** Linear light over a rectangle of a picture, and the way back into it. Kernel class. */
final class LightPlanes
{
    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    public function __construct(public readonly Rect $rect, public array $r, public array $g, public array $b) {}

    /** @param Rect $rect inside the planes' own */
    public static function of(Planes $planes, Rect $rect, Transfer $transfer): self
    {
        $curve = $transfer->constants();

        return new self(
            $rect,
            self::linear($planes->r, $planes->rect, $rect, $curve),
            self::linear($planes->g, $planes->rect, $rect, $curve),
            self::linear($planes->b, $planes->rect, $rect, $curve),
        );
    }

    /** Puts the light into the planes, as strongly as the weight says. */
    public function into(Planes $planes, Weight $weight, Transfer $transfer): void
    {
        $curve = $transfer->constants();
        self::blend($planes->r, $planes->rect, $this->r, $this->rect, $weight, $curve);
        self::blend($planes->g, $planes->rect, $this->g, $this->rect, $weight, $curve);
        self::blend($planes->b, $planes->rect, $this->b, $this->rect, $weight, $curve);
    }

    /**
     * @param list<float>                              $v
     * @param array{float, float, float, float, float} $curve
     *
     * @return list<float>
     */
    private static function linear(array $v, Rect $from, Rect $rect, array $curve): array
    {
        [$gamma, $gain, $shift, $slope, $cut] = $curve;
        $gain = 1.0 / $gain;
        $slope = 1.0 / $slope;
        $out = array_fill(0, $rect->count(), 0.0);
        foreach ($rect->rowsIn($from) as $o => $i) {
            for ($end = $i + $rect->width; $i < $end; ++$i) {
                $x = $v[$i];
                $m = $x < 0.0 ? -$x : $x;
                $m = $m <= $cut ? $m * $slope : (($m + $shift) * $gain) ** $gamma;
                $out[$o++] = $x < 0.0 ? -$m : $m;
            }
        }

        return $out;
    }

    /**
     * @param list<float>                              $v
     * @param list<float>                              $light
     * @param array{float, float, float, float, float} $curve
     */
    private static function blend(array &$v, Rect $into, array $light, Rect $from, Weight $weight, array $curve): void
    {
        [$gamma, $gain, $shift, $slope, $cut] = $curve;
        $cut /= $slope;
        $inverse = 1.0 / $gamma;
        $at = $weight->rect();
        $w = $weight->matte->v;
        $offset = $weight->offset;
        $scale = $weight->scale;
        $start = ($at->y - $from->y) * $from->width + $at->x - $from->x;
        foreach ($at->rowsIn($into) as $j => $i) {
            for ($o = $start, $end = $i + $at->width; $i < $end; ++$i, ++$o, ++$j) {
                $k = $offset + $scale * $w[$j];
                if ($k === 0.0) {
                    continue;
                }
                $x = $light[$o];
                $m = $x < 0.0 ? -$x : $x;
                $m = $m <= $cut ? $m * $slope : $gain * $m ** $inverse - $shift;
                $v[$i] += (($x < 0.0 ? -$m : $m) - $v[$i]) * $k;
            }
            $start += $from->width;
        }
    }
}
