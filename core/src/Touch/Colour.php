<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Colour\WhitePoint;
use Cossel\Core\Picture\Planes;

/**
 * Warmer or cooler, and more or less colour, in this order:
 *
 * 1. temperature (mired along the daylight locus, + warmer) and tint (thousandths of CIE 1960 uv beside it, + magenta):
 *    Bradford adaptation of linear light from D65 to that white, see {@see WhitePoint};
 * 2. saturation on code values: Y' + saturation (C' - Y'), as ASC CDL 1.2 does it with the BT.709 weights.
 */
final class Colour implements Kind
{
    use Neutral;
    use Pointwise;

    /** @var array{Transfer, Curve}|null */
    private ?array $decode = null;

    public function name(): string
    {
        return 'colour';
    }

    public function parameters(): array
    {
        return [
            new Number('temperature', -95, 95, 0, 'mired'),
            new Number('tint', -30, 30, 0),
            new Number('saturation', 0, 4, 1),
        ];
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $transfer = $site->transfer();
        $at = $weight->matte->rect;
        $stride = $planes->rect->width;
        $white = $values['temperature'] !== 0.0 || $values['tint'] !== 0.0;
        $m = $white ? WhitePoint::change($values['temperature'], $values['tint']) : null;
        for ($y = 0; $y < $at->height; ++$y) {
            $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
            $j = $y * $at->width;
            if ($m === null) {
                self::saturate($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $j, $at->width, $weight->offset, $weight->scale, $values['saturation']);
            } elseif ($transfer === Transfer::Bt1886) {
                self::relight($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $j, $at->width, $weight->offset, $weight->scale, $values['saturation'], $m, $this->decode($transfer)->table);
            } else {
                self::relightBy($transfer, $planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $j, $at->width, $weight->offset, $weight->scale, $values['saturation'], $m);
            }
        }
    }

    private function decode(Transfer $transfer): Curve
    {
        if ($this->decode === null || $this->decode[0] !== $transfer) {
            $this->decode = [$transfer, Curve::of($transfer->linear(...))];
        }

        return $this->decode[1];
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     */
    private static function saturate(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, float $saturation): void
    {
        $offset *= $saturation - 1.0;
        $scale *= $saturation - 1.0;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            $red = $r[$i];
            $green = $g[$i];
            $blue = $b[$i];
            $luma = 0.2126 * $red + 0.7152 * $green + 0.0722 * $blue;
            $r[$i] = $red + ($red - $luma) * $k;
            $g[$i] = $green + ($green - $luma) * $k;
            $b[$i] = $blue + ($blue - $luma) * $k;
        }
    }

    /**
     * @param list<float>       $r
     * @param list<float>       $g
     * @param list<float>       $b
     * @param list<float>       $w
     * @param array<int, float> $m
     * @param list<float>       $t linear light of code values
     */
    private static function relight(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, float $saturation, array $m, array $t): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $m;
        $last = count($t) - 2;
        $inverse = 1 / 2.4;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $p = ($r[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $x = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
            $p = ($g[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $y = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
            $p = ($b[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $z = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
            $red = $m0 * $x + $m1 * $y + $m2 * $z;
            $green = $m3 * $x + $m4 * $y + $m5 * $z;
            $blue = $m6 * $x + $m7 * $y + $m8 * $z;
            $red = $red < 0.0 ? -((-$red) ** $inverse) : $red ** $inverse;
            $green = $green < 0.0 ? -((-$green) ** $inverse) : $green ** $inverse;
            $blue = $blue < 0.0 ? -((-$blue) ** $inverse) : $blue ** $inverse;
            $luma = (1.0 - $saturation) * (0.2126 * $red + 0.7152 * $green + 0.0722 * $blue);
            $r[$i] += ($luma + $saturation * $red - $r[$i]) * $k;
            $g[$i] += ($luma + $saturation * $green - $g[$i]) * $k;
            $b[$i] += ($luma + $saturation * $blue - $b[$i]) * $k;
        }
    }

    /**
     * The same for transfers that are no pure power; slower, value by value.
     *
     * @param list<float>       $r
     * @param list<float>       $g
     * @param list<float>       $b
     * @param list<float>       $w
     * @param array<int, float> $m
     */
    private static function relightBy(Transfer $transfer, array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, float $saturation, array $m): void
    {
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            $x = $transfer->linear($r[$i]);
            $y = $transfer->linear($g[$i]);
            $z = $transfer->linear($b[$i]);
            $red = $transfer->code($m[0] * $x + $m[1] * $y + $m[2] * $z);
            $green = $transfer->code($m[3] * $x + $m[4] * $y + $m[5] * $z);
            $blue = $transfer->code($m[6] * $x + $m[7] * $y + $m[8] * $z);
            $luma = (1.0 - $saturation) * (0.2126 * $red + 0.7152 * $green + 0.0722 * $blue);
            $r[$i] += ($luma + $saturation * $red - $r[$i]) * $k;
            $g[$i] += ($luma + $saturation * $green - $g[$i]) * $k;
            $b[$i] += ($luma + $saturation * $blue - $b[$i]) * $k;
        }
    }
}
