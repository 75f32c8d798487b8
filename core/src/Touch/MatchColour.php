<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Robust;

/**
 * Pulls the area's colour to a target: with m the robust mean of the area in Oklab on this frame, L moves by
 * light x (target L - m L), a and b by colour x (target - m), the same for every pixel.
 */
final class MatchColour implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'match';
    }

    public function parameters(): array
    {
        return [
            new Number('light', 0, 1, 0),
            new Number('colour', 0, 1, 0),
            new Number('targetL', 0, 1, 0.65),
            new Number('targetA', -0.4, 0.4, 0.04),
            new Number('targetB', -0.4, 0.4, 0.05),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['light'] === 0.0 && $values['colour'] === 0.0;
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::area();
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $matte = $site->matte();
        $lab = LabPlanes::of($planes, $matte->rect, $site->transfer());
        foreach (['l' => ['light', 'targetL'], 'a' => ['colour', 'targetA'], 'b' => ['colour', 'targetB']] as $channel => [$amount, $target]) {
            [$mean] = Robust::of($lab->{$channel}, $matte->v);
            $shift = $values[$amount] * ($values[$target] - $mean);
            $lab->{$channel} = array_map(static fn(float $v): float => $v + $shift, $lab->{$channel});
        }
        $lab->into($planes, $weight, $site->transfer());
    }
}
