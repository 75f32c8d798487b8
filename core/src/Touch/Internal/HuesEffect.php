<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Saturation, hue and lightness changed by what the hue says. */
final readonly class HuesEffect implements Effect
{
    use Pointwise;

    private const GREY = 0.005;
    private const COLOURED = 0.04;

    /**
     * @param list<float> $saturation by whole degrees, 0 to 360
     * @param list<float> $hue        degrees
     * @param list<float> $lightness
     */
    public function __construct(private array $saturation, private array $hue, private array $lightness, private Transfer $transfer) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $lab = LabPlanes::of($planes, $weight->rect(), $this->transfer);
        self::turn($lab->l, $lab->a, $lab->b, $this->saturation, $this->hue, $this->lightness);
        $lab->into($planes, $weight, $this->transfer);
    }

    /**
     * @param list<float> $l
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $saturation
     * @param list<float> $hue
     * @param list<float> $lightness
     */
    private static function turn(array &$l, array &$a, array &$b, array $saturation, array $hue, array $lightness): void
    {
        $span = 1.0 / (self::COLOURED - self::GREY);
        for ($i = 0, $n = count($l); $i < $n; ++$i) {
            $x = $a[$i];
            $y = $b[$i];
            $chroma = sqrt($x * $x + $y * $y);
            $t = ($chroma - self::GREY) * $span;
            if ($t <= 0.0) {
                continue;
            }
            $t = $t >= 1.0 ? 1.0 : $t * $t * (3.0 - 2.0 * $t);
            $p = atan2($y, $x) * 57.29577951308232;
            $p = $p < 0.0 ? $p + 360.0 : $p;
            $c = (int) $p;
            $c = $c > 359 ? 359 : $c;
            $f = $p - $c;
            $l[$i] += $t * ($lightness[$c] + ($lightness[$c + 1] - $lightness[$c]) * $f);
            $k = 1.0 + $t * ($saturation[$c] + ($saturation[$c + 1] - $saturation[$c]) * $f);
            $angle = $t * ($hue[$c] + ($hue[$c + 1] - $hue[$c]) * $f) * 0.017453292519943295;
            $cos = $k * cos($angle);
            $sin = $k * sin($angle);
            $a[$i] = $x * $cos - $y * $sin;
            $b[$i] = $x * $sin + $y * $cos;
        }
    }
}
