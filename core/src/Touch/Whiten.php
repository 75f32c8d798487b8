<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;

/**
 * Takes the yellow out of teeth and lifts them, up to a ceiling. In Oklab, where a colour is a tooth's by
 *
 *     t = (1 - s(gums - .012, gums + .012, a - .25 b)) s(dark - .08, dark + .08, L)
 *
 * (s the cubic smoothstep; lips, gums and tongue are redder for their yellow than teeth, the cavity is darker):
 * b becomes b - yellow t max(0, b - clean); a likewise a - yellow t max(0, a); L becomes L + t (c(L + lift) - L), where c
 * bends softly over the last .06 below the ceiling, which no tooth passes.
 */
final class Whiten implements InArea, Kind
{
    use Neutral;
    use Pointwise;

    private const BEND = 0.06;

    public function name(): string
    {
        return 'whiten';
    }

    public function parameters(): array
    {
        return [
            new Number('yellow', 0, 1, 0),
            new Number('lift', 0, 0.2, 0),
            new Number('ceiling', 0, 1, 0.85),
            new Number('clean', -0.05, 0.1, 0.01),
            new Number('gums', -0.02, 0.1, 0.025),
            new Number('dark', 0, 0.8, 0.35),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['yellow'] === 0.0 && $values['lift'] === 0.0;
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $lab = LabPlanes::of($planes, $weight->matte->rect, $site->transfer());
        $ceiling = $values['ceiling'];
        foreach ($lab->b as $i => $b) {
            $l = $lab->l[$i];
            $a = $lab->a[$i];
            $t = (1 - Smooth::step($values['gums'] - 0.012, $values['gums'] + 0.012, $a - 0.25 * $b)) * Smooth::step($values['dark'] - 0.08, $values['dark'] + 0.08, $l);
            if ($t === 0.0) {
                continue;
            }
            $lab->b[$i] = $b - $values['yellow'] * $t * max(0.0, $b - $values['clean']);
            $lab->a[$i] = $a - $values['yellow'] * $t * max(0.0, $a);
            $lab->l[$i] = $l + $t * (self::bent($l + $values['lift'], $ceiling) - $l);
        }
        $lab->into($planes, $weight, $site->transfer());
    }

    /** Lightness that comes ever closer to the ceiling and never over it. */
    private static function bent(float $l, float $ceiling): float
    {
        $from = $ceiling - self::BEND;

        return $l <= $from ? $l : $ceiling - self::BEND * self::BEND / ($l - $from + self::BEND);
    }
}
