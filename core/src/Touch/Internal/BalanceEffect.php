<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Oklab a and b moved by what their lightness says. */
final readonly class BalanceEffect implements Effect
{
    use Pointwise;

    /**
     * @param list<float> $reds    what is added to a, by L in steps of 1/256
     * @param list<float> $yellows and to b
     */
    public function __construct(private array $reds, private array $yellows, private Transfer $transfer) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $lab = LabPlanes::of($planes, $weight->rect(), $this->transfer);
        self::shift($lab->l, $lab->a, $lab->b, $this->reds, $this->yellows);
        $lab->into($planes, $weight, $this->transfer);
    }

    /**
     * @param list<float> $l
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $reds    by L in steps of 1/256
     * @param list<float> $yellows
     */
    private static function shift(array $l, array &$a, array &$b, array $reds, array $yellows): void
    {
        for ($i = 0, $n = count($l); $i < $n; ++$i) {
            $p = $l[$i] * 256.0;
            $p = $p < 0.0 ? 0.0 : ($p > 255.999 ? 255.999 : $p);
            $c = (int) $p;
            $a[$i] += $reds[$c] + ($reds[$c + 1] - $reds[$c]) * ($p - $c);
            $b[$i] += $yellows[$c] + ($yellows[$c + 1] - $yellows[$c]) * ($p - $c);
        }
    }
}
