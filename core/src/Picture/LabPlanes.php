<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

use Cossel\Core\Colour\Transfer;

/**
 * Oklab over a rectangle of a picture, and the way back into it (see {@see \Cossel\Core\Colour\Oklab} for the source
 * of the matrices). Kernel class: the same formulas, written out for whole planes.
 */
final class LabPlanes
{
    /**
     * @param list<float>                                 $l
     * @param list<float>                                 $a
     * @param list<float>                                 $b
     * @param array{list<float>, list<float>, list<float>} $read what was read: pixels that are still that are not written
     */
    private function __construct(
        public readonly Rect $rect,
        public array $l,
        public array $a,
        public array $b,
        private array $read = [[], [], []],
    ) {}

    /** @param Rect $rect inside the planes' own */
    public static function of(Planes $planes, Rect $rect, Transfer $transfer): self
    {
        $n = $rect->count();
        $lab = new self($rect, array_fill(0, $n, 0.0), array_fill(0, $n, 0.0), array_fill(0, $n, 0.0));
        self::read($planes->r, $planes->g, $planes->b, $planes->rect, $lab->l, $lab->a, $lab->b, $rect, $transfer->constants());
        $lab->read = [$lab->l, $lab->a, $lab->b];

        return $lab;
    }

    /** The colours over a rectangle inside their own. */
    public function window(Rect $rect): self
    {
        if ($rect->equals($this->rect)) {
            return clone $this;
        }
        $cut = fn(array $v): array => (new Grey($this->rect, $v))->window($rect)->v;

        return new self($rect, $cut($this->l), $cut($this->a), $cut($this->b), array_map($cut, $this->read));
    }

    /** The same colours, thought of as of another rectangle of this size. */
    public function at(Rect $rect): self
    {
        return new self($rect, $this->l, $this->a, $this->b, $this->read);
    }

    /** Puts the colours into the planes, as strongly as the weight says. Colours that were not changed leave the very R'G'B'. */
    public function into(Planes $planes, Weight $weight, Transfer $transfer): void
    {
        self::blend(
            $planes->r,
            $planes->g,
            $planes->b,
            $planes->rect,
            $this->l,
            $this->a,
            $this->b,
            $this->read,
            $this->rect,
            $weight,
            $transfer->constants(),
        );
    }

    /**
     * @param list<float>                              $r
     * @param list<float>                              $g
     * @param list<float>                              $b
     * @param list<float>                              $outL
     * @param list<float>                              $outA
     * @param list<float>                              $outB
     * @param array{float, float, float, float, float} $curve
     */
    private static function read(
        array $r,
        array $g,
        array $b,
        Rect $from,
        array &$outL,
        array &$outA,
        array &$outB,
        Rect $rect,
        array $curve,
    ): void {
        [$gamma, $gain, $shift, $slope, $cut] = $curve;
        // Divisions are calls, even of compiled code.
        $gain = 1.0 / $gain;
        $slope = 1.0 / $slope;
        $third = 1.0 / 3.0;
        foreach ($rect->rowsIn($from) as $o => $i) {
            for ($end = $i + $rect->width; $i < $end; ++$i, ++$o) {
                $x = $r[$i];
                $m = $x < 0.0 ? -$x : $x;
                $m = $m <= $cut ? $m * $slope : (($m + $shift) * $gain) ** $gamma;
                $red = $x < 0.0 ? -$m : $m;
                $x = $g[$i];
                $m = $x < 0.0 ? -$x : $x;
                $m = $m <= $cut ? $m * $slope : (($m + $shift) * $gain) ** $gamma;
                $green = $x < 0.0 ? -$m : $m;
                $x = $b[$i];
                $m = $x < 0.0 ? -$x : $x;
                $m = $m <= $cut ? $m * $slope : (($m + $shift) * $gain) ** $gamma;
                $blue = $x < 0.0 ? -$m : $m;
                $x = 0.4122214708 * $red + 0.5363325363 * $green + 0.0514459929 * $blue;
                $l = $x < 0.0 ? -((-$x) ** $third) : $x ** $third;
                $x = 0.2119034982 * $red + 0.6806995451 * $green + 0.1073969566 * $blue;
                $m = $x < 0.0 ? -((-$x) ** $third) : $x ** $third;
                $x = 0.0883024619 * $red + 0.2817188376 * $green + 0.6299787005 * $blue;
                $s = $x < 0.0 ? -((-$x) ** $third) : $x ** $third;
                $outL[$o] = 0.2104542553 * $l + 0.7936177850 * $m - 0.0040720468 * $s;
                $outA[$o] = 1.9779984951 * $l - 2.4285922050 * $m + 0.4505937099 * $s;
                $outB[$o] = 0.0259040371 * $l + 0.7827717662 * $m - 0.8086757660 * $s;
            }
        }
    }

    /**
     * @param list<float>                              $r
     * @param list<float>                              $g
     * @param list<float>                              $b
     * @param list<float>                              $inL
     * @param list<float>                              $inA
     * @param list<float>                              $inB
     * @param array{list<float>, list<float>, list<float>} $read
     * @param array{float, float, float, float, float} $curve
     */
    private static function blend(
        array &$r,
        array &$g,
        array &$b,
        Rect $into,
        array $inL,
        array $inA,
        array $inB,
        array $read,
        Rect $from,
        Weight $weight,
        array $curve,
    ): void {
        [$gamma, $gain, $shift, $slope, $cut] = $curve;
        $cut /= $slope;
        $inverse = 1.0 / $gamma;
        [$wasL, $wasA, $wasB] = $read;
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
                $x = $inL[$o];
                $p = $inA[$o];
                $q = $inB[$o];
                if ($x === $wasL[$o] && $p === $wasA[$o] && $q === $wasB[$o]) {
                    continue;
                }
                $l = 0.9999999984505198 * $x + 0.39633779217376786 * $p + 0.2158037580607588 * $q;
                $m = 1.0000000088817609 * $x - 0.10556134232365635 * $p - 0.06385417477170591 * $q;
                $s = 1.0000000546724108 * $x - 0.08948418209496575 * $p - 1.2914855378640917 * $q;
                $l *= $l * $l;
                $m *= $m * $m;
                $s *= $s * $s;
                $x = 4.076741661347994 * $l - 3.3077115904081933 * $m + 0.2309699287294279 * $s;
                $v = $x < 0.0 ? -$x : $x;
                $v = $v <= $cut ? $v * $slope : $gain * $v ** $inverse - $shift;
                $r[$i] += (($x < 0.0 ? -$v : $v) - $r[$i]) * $k;
                $x = -1.268438004092176 * $l + 2.6097574006633715 * $m - 0.3413193963102196 * $s;
                $v = $x < 0.0 ? -$x : $x;
                $v = $v <= $cut ? $v * $slope : $gain * $v ** $inverse - $shift;
                $g[$i] += (($x < 0.0 ? -$v : $v) - $g[$i]) * $k;
                $x = -0.004196086541837109 * $l - 0.7034186144594496 * $m + 1.7076147009309448 * $s;
                $v = $x < 0.0 ? -$x : $x;
                $v = $v <= $cut ? $v * $slope : $gain * $v ** $inverse - $shift;
                $b[$i] += (($x < 0.0 ? -$v : $v) - $b[$i]) * $k;
            }
            $start += $from->width;
        }
    }
}
