<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Robust;

/** What is finer than a size in what lies under an area's matte. */
final class Texture
{
    /** Whether enough lies under the matte to tell its texture by. */
    public static function isSeen(Seen $seen, int $few): bool
    {
        return $seen->isTreated() && count(array_filter($seen->matte->v, static fn(float $k): bool => $k >= 0.5)) >= $few;
    }

    /**
     * The robust spread, over the matte, of a plane less its Gaussian.
     *
     * @param list<float> $v     over the rectangle of what is seen
     * @param float       $sigma in pixels
     */
    public static function spread(array $v, Seen $seen, float $sigma): float
    {
        $fine = $v;
        foreach (Gaussian::blur(new Grey($seen->rect(), $v), $sigma)->v as $i => $soft) {
            $fine[$i] -= $soft;
        }

        return Robust::of($fine, $seen->matte->v)[1];
    }
}
