<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Smooth;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** A new colour for an iris. */
final readonly class IrisEffect implements Effect
{
    use Pointwise;

    /**
     * @param array<string, mixed> $values   see {@see \Cossel\Core\Touch\Iris}
     * @param float                $mean     L of the fibres
     * @param float                $bright   above this L it may be the catch-light
     * @param float                $coloured 1 over the chroma of the fibres
     */
    public function __construct(
        private array $values,
        private AreaLab $area,
        private IrisDisc $disc,
        private float $mean,
        private float $bright,
        private float $coloured,
        private Transfer $transfer,
    ) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        $lab = $this->area->over($planes, $at);
        $distances = $this->disc->distances($at);
        $acts = $this->acts($lab, $distances);
        $blend = Blend::tryFrom($this->values['blend']);
        $this->colour($lab, $distances, $acts, $blend === null ? $this->values['strength'] : 0.0);
        $lab->into($planes, $weight, $this->transfer);
        if ($this->values['strength'] > 0.0) {
            $blend?->colour($planes, $weight, $acts, $this->values['strength'], $this->plain());
        }
    }

    /**
     * How strongly each pixel takes part.
     *
     * @param list<float> $distances
     *
     * @return list<float>
     */
    private function acts(LabPlanes $lab, array $distances): array
    {
        $pupil = $this->values['pupil'];
        foreach ($distances as $i => $r) {
            if ($r >= 1.1) {
                $distances[$i] = 0.0;
                continue;
            }
            $grey = 1 - Smooth::step(0.3, 0.7, hypot($lab->a[$i], $lab->b[$i]) * $this->coloured);
            $distances[$i] = Smooth::step($pupil - 0.06, $pupil + 0.06, $r)
                * (1 - Smooth::step(0.98, 1.1, $r))
                * (1 - Smooth::step($this->bright + 0.02, $this->bright + 0.14, $lab->l[$i]) * $grey);
        }

        return $distances;
    }

    /**
     * @param list<float> $distances
     * @param list<float> $acts
     */
    private function colour(LabPlanes $lab, array $distances, array $acts, float $strength): void
    {
        $angle = deg2rad($this->values['hue']);
        $ca = $this->values['chroma'] * cos($angle);
        $cb = $this->values['chroma'] * sin($angle);
        $of = 1.0 / max(0.02, $this->mean);
        foreach ($acts as $i => $k) {
            if ($k === 0.0) {
                continue;
            }
            $l = $lab->l[$i];
            $new = $l + $this->values['light'] * Smooth::step(0, 0.25, $l) + $this->values['contrast'] * ($l - $this->mean);
            $new *= 1 - 0.5 * $this->values['ring'] * Smooth::step(0.72, 0.98, $distances[$i]);
            $lab->l[$i] = $l + $k * ($new - $l);
            $share = 0.35 + 0.65 * max(0.0, min(1.6, $l * $of));
            $k *= $strength;
            $lab->a[$i] += $k * ($share * $ca - $lab->a[$i]);
            $lab->b[$i] += $k * ($share * $cb - $lab->b[$i]);
        }
    }

    /**
     * The colour itself, at the mean's lightness.
     *
     * @return array{float, float, float} R'G'B', 0..1
     */
    private function plain(): array
    {
        $angle = deg2rad($this->values['hue']);
        $light = Oklab::toLinear(max($this->mean, 0.35), $this->values['chroma'] * cos($angle), $this->values['chroma'] * sin($angle));

        return array_map(fn(float $v): float => max(0.0, min(1.0, $this->transfer->code($v))), $light);
    }
}
