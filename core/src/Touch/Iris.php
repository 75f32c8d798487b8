<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Robust;

/**
 * A new colour for an iris, with its fibres, pupil and catch-light kept. The iris is the ellipse of the area's extent; r is
 * the distance from its middle, 1 at its edge, and s the cubic smoothstep. It acts with
 *
 *     s(pupil - .06, pupil + .06, r) (1 - s(.98, 1.1, r)) (1 - s(q + .02, q + .14, L) (1 - s(.3, .7, C/c)))
 *
 * where q is the 80th percentile of L and c the robust mean of chroma C between pupil and edge: what is brighter and has
 * lost its colour is the catch-light, what is brighter and coloured are fibres. Then, in Oklab:
 *
 *  - light and contrast: L' = L + light s(0, .25, L) + contrast (L - m), m the robust mean;
 *  - ring: L' x (1 - .5 ring s(.72, .98, r)), the dark edge that irises have;
 *  - colour: hue as asked; chroma x (.35 + .65 min(1.6, L / m)), so that fibres stay apart and the dark stays dark.
 *
 * Blends: tint puts that colour in place; overlay, soft-light and colour blend the plain colour at the mean's lightness into
 * the picture by the formulas of W3C Compositing and Blending Level 1, on R'G'B' cut to 0..1; all by strength.
 */
final class Iris implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'iris';
    }

    public function parameters(): array
    {
        return [
            new Number('strength', 0, 1, 0),
            new Number('hue', 0, 360, 250, '°'),
            new Number('chroma', 0, 0.3, 0.06),
            new Choice('blend', ['tint', 'overlay', 'soft-light', 'colour']),
            new Number('light', -0.3, 0.3, 0),
            new Number('contrast', -1, 2, 0),
            new Number('ring', 0, 1, 0),
            new Number('pupil', 0, 0.9, 0.36),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['strength'] === 0.0 && $values['light'] === 0.0 && $values['contrast'] === 0.0 && $values['ring'] === 0.0;
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::area();
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $matte = $site->matte();
        $rect = $matte->rect;
        $transfer = $site->transfer();
        $lab = LabPlanes::of($planes, $rect, $transfer);
        $distances = self::distances($site);
        $fibres = array_fill(0, $rect->count(), 0.0);
        foreach ($distances as $i => $r) {
            $fibres[$i] = $r > $values['pupil'] + 0.06 && $r < 0.95 ? $matte->v[$i] : 0.0;
        }
        [$mean] = Robust::of($lab->l, $fibres);
        $bright = Robust::quantile($lab->l, $fibres, 0.8);
        $chroma = array_map(hypot(...), $lab->a, $lab->b);
        $coloured = 1 / max(0.01, Robust::of($chroma, $fibres)[0]);
        $acts = [];
        foreach ($distances as $i => $r) {
            $acts[$i] = $r >= 1.1 ? 0.0 : Smooth::step($values['pupil'] - 0.06, $values['pupil'] + 0.06, $r) * (1 - Smooth::step(0.98, 1.1, $r))
                * (1 - Smooth::step($bright + 0.02, $bright + 0.14, $lab->l[$i]) * (1 - Smooth::step(0.3, 0.7, $chroma[$i] * $coloured)));
        }
        $touched = $values['blend'] === 'tint'
            ? self::tinted($lab, $distances, $acts, $mean, $values)
            : self::tinted($lab, $distances, $acts, $mean, ['strength' => 0.0] + $values);
        $touched->into($planes, $weight, $transfer);
        if ($values['blend'] !== 'tint' && $values['strength'] > 0.0) {
            Blend::named($values['blend'])->colour($planes, $weight, $acts, $rect, $values['strength'], self::plain($mean, $values, $site));
        }
    }

    /** @return list<float> from the middle, in radii of the extent's ellipse, over the matte's rectangle */
    private static function distances(Site $site): array
    {
        $extent = $site->extent();
        $rect = $site->matte()->rect;
        $back = $extent->motion->affineAt($extent->x, $extent->y)->inverse();
        $rows = $site->rows();
        $distances = [];
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x) {
                [$px, $py] = $back->apply(($x + 0.5) / $rows, ($y + 0.5) / $rows);
                $distances[] = hypot(($px - $extent->x) / $extent->halfWidth, ($py - $extent->y) / $extent->halfHeight);
            }
        }

        return $distances;
    }

    /**
     * @param list<float>          $distances
     * @param list<float>          $acts
     * @param array<string, mixed> $values
     */
    private static function tinted(LabPlanes $lab, array $distances, array $acts, float $mean, array $values): LabPlanes
    {
        $angle = deg2rad($values['hue']);
        $ca = $values['chroma'] * cos($angle);
        $cb = $values['chroma'] * sin($angle);
        $of = 1.0 / max(0.02, $mean);
        foreach ($acts as $i => $k) {
            if ($k === 0.0) {
                continue;
            }
            $l = $lab->l[$i];
            $new = $l + $values['light'] * Smooth::step(0, 0.25, $l) + $values['contrast'] * ($l - $mean);
            $new *= 1 - 0.5 * $values['ring'] * Smooth::step(0.72, 0.98, $distances[$i]);
            $lab->l[$i] = $l + $k * ($new - $l);
            $share = 0.35 + 0.65 * max(0.0, min(1.6, $l * $of));
            $k *= $values['strength'];
            $lab->a[$i] += $k * ($share * $ca - $lab->a[$i]);
            $lab->b[$i] += $k * ($share * $cb - $lab->b[$i]);
        }

        return $lab;
    }

    /**
     * The colour itself, at the mean's lightness.
     *
     * @param array<string, mixed> $values
     *
     * @return array{float, float, float} R'G'B', 0..1
     */
    private static function plain(float $mean, array $values, Site $site): array
    {
        $angle = deg2rad($values['hue']);
        $light = \Cossel\Core\Colour\Oklab::toLinear(max($mean, 0.35), $values['chroma'] * cos($angle), $values['chroma'] * sin($angle));

        return array_map(static fn(float $v): float => max(0.0, min(1.0, $site->transfer()->code($v))), $light);
    }
}
