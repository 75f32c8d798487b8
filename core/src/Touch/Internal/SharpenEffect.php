<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** What luma has over its Gaussian, added once more. */
final readonly class SharpenEffect implements Effect
{
    /** @param float $sigma pixels */
    public function __construct(private float $sigma, private float $strength, private float $threshold) {}

    public function needs(Rect $rect): Rect
    {
        return $rect->grow(Gaussian::reach($this->sigma));
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $luma = Luma::of($planes, $this->needs($weight->rect())->intersect($planes->rect));
        $luma->v = self::detail($luma->v, Gaussian::blur($luma, $this->sigma)->v, $this->strength, $this->threshold ** 2);
        Luma::add($planes, $weight, $luma);
    }

    /**
     * @param list<float> $v
     * @param list<float> $soft
     *
     * @return list<float>
     */
    private static function detail(array $v, array $soft, float $strength, float $least): array
    {
        foreach ($soft as $i => $s) {
            $d = $v[$i] - $s;
            $square = $d * $d;
            $v[$i] = $square <= $least ? 0.0 : $strength * $d * (1.0 - $least / $square);
        }

        return $v;
    }
}
