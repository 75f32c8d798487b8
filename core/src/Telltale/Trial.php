<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Recipe;

/**
 * Cures are tried on the worst frames before they are offered: applied, looked at, and where the tell-tale still rings there applied
 * again, more firmly. Offered is what brings the measure under the limit; where nothing does, the best that can be done, with what it comes
 * to; never what changes next to nothing.
 */
final class Trial
{
    /** Frames that are tried, and frames beside each that a measure may need. */
    private const WORST = 3;
    private const BESIDE = 2;
    private const TIMES = 3;
    /** By how much of the measure the best that can be done has to be better. */
    private const WORTH = 0.1;

    /** @param \Closure(Recipe, list<int>): array<int, array<string, array<string, list<float>>>> $look what {@see Inspection} keeps */
    public function __construct(private readonly \Closure $look) {}

    /** @return list<Cure> */
    public function cures(Finding $finding, Recipe $recipe): array
    {
        $reaching = [];
        $best = null;
        foreach ($finding->cures($recipe) as $cure) {
            if ($cure->recipe === null || !$finding->telltale->isLocal) {
                $reaching[] = $cure;
                continue;
            }
            $tried = $this->tried($cure, $cure->recipe, $finding);
            if ($tried->measure <= $finding->limit) {
                $reaching[] = $tried;
            } elseif ($tried->measure < (1.0 - self::WORTH) * ($best->measure ?? $finding->measure())) {
                $best = $tried;
            }
        }

        return $reaching !== [] || $best === null ? $reaching : [$best];
    }

    /** The cure, as often as it takes, with the measure it comes to. */
    private function tried(Cure $cure, Recipe $cured, Finding $finding, int $time = 1): Cure
    {
        $measures = $this->measures($finding, $cured);
        if ($measures === []) {
            // Nothing is to be seen any more.
            return $cure->tried($cure->words, 0.0);
        }
        $now = $finding->with($cured, $measures);
        $next = $now->rings() && $time < self::TIMES ? $now->cures($cured)[0] ?? null : null;
        if ($next?->recipe === null) {
            return $cure->tried($cure->words, $now->measure());
        }
        $further = $this->tried($next, $next->recipe, $now, $time + 1);

        return $further->tried("{$cure->words}, then " . lcfirst($further->words), $further->measure ?? 0.0);
    }

    /** @return array<int, float> on the worst frames */
    private function measures(Finding $finding, Recipe $recipe): array
    {
        $measures = $finding->measures;
        arsort($measures);
        $worst = array_slice(array_keys($measures), 0, self::WORST);
        $frames = [];
        foreach ($worst as $frame) {
            $beside = $finding->telltale->isFine ? 0 : self::BESIDE;
            for ($f = max(0, $frame - $beside); $f <= $frame + $beside; ++$f) {
                $frames[$f] = $f;
            }
        }
        ksort($frames);
        $found = Findings::measures(($this->look)($recipe, array_values($frames)), $recipe);

        return array_intersect_key($found[$finding->telltale->name][$finding->area->id ?? ''] ?? [], array_flip($worst));
    }
}
