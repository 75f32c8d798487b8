<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Takes from an area's Oklab what was found to be too much, and of its pores as much as is asked. */
final readonly class EvenEffect implements Effect
{
    use Pointwise;

    /**
     * @param list<float>                 $less    of L, by blocks
     * @param array<string, list<float>> $colours of a and b likewise, where anything is taken
     * @param list<float>                 $skin    how much it is skin; only where pores are asked for
     * @param list<float>                 $fine    L without its pores; likewise
     * @param float                       $spread  of the pores
     */
    public function __construct(
        private AreaLab $area,
        private Blocks $blocks,
        private array $less,
        private array $colours,
        private float $pores,
        private array $skin,
        private array $fine,
        private float $spread,
        private Transfer $transfer,
    ) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        $lab = $this->area->over($planes, $at);
        $less = $this->blocks->over($this->less, $at);
        if ($this->pores !== 0.0) {
            self::lessen(
                $less,
                $lab->l,
                $this->blocks->over($this->fine, $at),
                $this->blocks->over($this->skin, $at),
                $this->pores,
                1.0 / max(1e-9, 4 * $this->spread),
            );
        }
        self::take($lab->l, $less);
        foreach ($this->colours as $channel => $of) {
            self::take($lab->{$channel}, $this->blocks->over($of, $at));
        }
        $lab->into($planes, $weight, $this->transfer);
    }

    /**
     * @param list<float> $less
     * @param list<float> $l
     * @param list<float> $fine
     * @param list<float> $skin
     */
    private static function lessen(array &$less, array $l, array $fine, array $skin, float $amount, float $limit): void
    {
        foreach ($l as $i => $c) {
            $c -= $fine[$i];
            $t = $c * $limit;
            $t *= $t;
            $less[$i] += $amount * $skin[$i] * $c / (1.0 + $t * $t);
        }
    }

    /**
     * @param list<float> $from
     * @param list<float> $less
     */
    private static function take(array &$from, array $less): void
    {
        foreach ($less as $i => $x) {
            $from[$i] -= $x;
        }
    }
}
