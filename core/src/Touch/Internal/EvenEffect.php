<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/**
 * Takes from an area's Oklab what was found to be too much. What was measured by blocks is read between them before an edge is told
 * from a band, so that no block shows at one.
 */
final readonly class EvenEffect implements Effect
{
    use Pointwise;

    /**
     * @param Blocked                   $skin    how much it is skin
     * @param list<Blocked|null>        $soft    L, softer each time; null where it is not needed
     * @param list<array{float, float}> $bands   what is taken of what each of these has less than the one before, the first less than L
     *                                           itself: how much, and the inverse of what is an edge
     * @param array{float, float}       $shine   how much of what is above which of the first of these
     * @param array<string, Blocked>    $colours what is taken of a and b where it is skin, where anything is
     */
    public function __construct(
        private AreaLab $area,
        private Blocked $skin,
        private array $soft,
        private array $bands,
        private array $shine,
        private array $colours,
        private Transfer $transfer,
    ) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        $lab = $this->area->over($planes, $at);
        $less = array_fill(0, $at->count(), 0.0);
        $soft = array_map(static fn(?Blocked $v): array => $v?->over($at) ?? [], $this->soft);
        $upper = $lab->l;
        foreach ($this->bands as $i => [$amount, $limit]) {
            if ($amount !== 0.0) {
                self::lessen($less, $upper, $soft[$i], $amount, $limit);
            }
            $upper = $soft[$i];
        }
        [$amount, $from] = $this->shine;
        if ($amount !== 0.0) {
            self::lower($less, $soft[0], $from, $amount);
        }
        $skin = $this->skin->over($at);
        self::take($lab->l, $less, $skin);
        foreach ($this->colours as $channel => $of) {
            self::take($lab->{$channel}, $of->over($at), $skin);
        }
        $lab->into($planes, $weight, $this->transfer);
    }

    /**
     * Adds a share of the band between two softened versions to what is taken away.
     *
     * @param list<float> $less
     * @param list<float> $upper
     * @param list<float> $lower
     */
    private static function lessen(array &$less, array $upper, array $lower, float $amount, float $limit): void
    {
        foreach ($lower as $i => $x) {
            $c = $upper[$i] - $x;
            $t = $c * $limit;
            $t *= $t;
            $less[$i] += $amount * $c / (1.0 + $t * $t);
        }
    }

    /**
     * @param list<float> $less
     * @param list<float> $fine
     */
    private static function lower(array &$less, array $fine, float $from, float $amount): void
    {
        foreach ($fine as $i => $x) {
            if ($x > $from) {
                $less[$i] += $amount * ($x - $from);
            }
        }
    }

    /**
     * @param list<float> $from
     * @param list<float> $less
     * @param list<float> $share
     */
    private static function take(array &$from, array $less, array $share): void
    {
        foreach ($less as $i => $x) {
            $from[$i] -= $x * $share[$i];
        }
    }
}
