<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;

/**
 * Colour balance of shadows, mids and highlights apart: offsets of Oklab a (green to red) and b (blue to yellow), each
 * within a zone of Oklab L. With s the cubic smoothstep the zones are 1 - s(.2, .5, L), s(.55, .85, L) and what is left
 * between them; together they are 1 everywhere.
 */
final class Balance implements Kind
{
    use Neutral;
    use Pointwise;

    public const ZONES = ['shadows', 'mids', 'highlights'];

    public function name(): string
    {
        return 'balance';
    }

    public function parameters(): array
    {
        $parameters = [];
        foreach (self::ZONES as $zone) {
            $parameters[] = new Number("{$zone}Red", -0.1, 0.1, 0);
            $parameters[] = new Number("{$zone}Yellow", -0.1, 0.1, 0);
        }

        return $parameters;
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $reds = $yellows = [];
        for ($i = 0; $i <= 256; ++$i) {
            $shadows = 1 - Smooth::step(0.2, 0.5, $i / 256);
            $highlights = Smooth::step(0.55, 0.85, $i / 256);
            $mids = 1 - $shadows - $highlights;
            $reds[] = $shadows * $values['shadowsRed'] + $mids * $values['midsRed'] + $highlights * $values['highlightsRed'];
            $yellows[] = $shadows * $values['shadowsYellow'] + $mids * $values['midsYellow'] + $highlights * $values['highlightsYellow'];
        }
        $lab = LabPlanes::of($planes, $weight->matte->rect, $site->transfer());
        self::shift($lab->l, $lab->a, $lab->b, $reds, $yellows);
        $lab->into($planes, $weight, $site->transfer());
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
