<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Smooth;
use Cossel\Core\Touch\Internal\BalanceEffect;

/**
 * Colour balance of shadows, mids and highlights apart: offsets of Oklab a (green to red) and b (blue to yellow), each
 * within a zone of Oklab L. With s the cubic smoothstep the zones are 1 - s(.2, .5, L), s(.55, .85, L) and what is left
 * between them; together they are 1 everywhere.
 */
final class Balance implements Kind
{
    use Neutral;

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

    public function prepare(array $values, Site $site): Effect
    {
        $reds = $yellows = [];
        for ($i = 0; $i <= 256; ++$i) {
            $shadows = 1 - Smooth::step(0.2, 0.5, $i / 256);
            $highlights = Smooth::step(0.55, 0.85, $i / 256);
            $mids = 1 - $shadows - $highlights;
            $reds[] = $shadows * $values['shadowsRed'] + $mids * $values['midsRed'] + $highlights * $values['highlightsRed'];
            $yellows[] = $shadows * $values['shadowsYellow'] + $mids * $values['midsYellow'] + $highlights * $values['highlightsYellow'];
        }

        return new BalanceEffect($reds, $yellows, $site->transfer());
    }
}
