<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Planes;

/**
 * Unsharp mask on luma: Y' + strength x c(Y' - G(Y')), G a Gaussian whose sigma is the radius (picture heights) and
 * c(d) = d max(0, 1 - threshold² / d²), which leaves what is weaker than the threshold (noise) alone without a step.
 * What it adds to Y' is added to all three channels.
 */
final class Sharpen implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'sharpen';
    }

    public function parameters(): array
    {
        return [
            new Number('strength', 0, 3, 0),
            new Number('radius', 0.0005, 0.02, 0.0015, 'heights'),
            new Number('threshold', 0, 0.1, 0.004),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['strength'] === 0.0;
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::around(Gaussian::reach($values['radius'] * $site->rows()));
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $sigma = $values['radius'] * $site->rows();
        $luma = Luma::of($planes, $weight->matte->rect->grow(Gaussian::reach($sigma))->intersect($planes->rect));
        $soft = Gaussian::blur($luma, $sigma);
        $luma->v = self::detail($luma->v, $soft->v, $values['strength'], $values['threshold'] ** 2);
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
