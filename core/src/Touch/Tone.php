<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/**
 * Levels on code values, in this order:
 *
 * 1. lift, gain, gamma on each channel: y = gain (x + lift (1 - x)); z = sgn(y) |y|^(1/gamma);
 * 2. contrast about a pivot p, a power so that black stays black: p sgn(z) |z/p|^contrast;
 * 3. zones, in stops of display light: all three channels times 2^(sum of amount x zone(Y') / 2.4), with
 *    Y' = 0.2126 R' + 0.7152 G' + 0.0722 B' after step 2 and s(a, b, x) the cubic smoothstep:
 *    blacks 1 - s(0, .2, Y'), shadows 1 - s(0, .5, Y'), highlights s(.5, 1, Y'), whites s(.8, 1, Y'). With `calm` (sigma
 *    in picture heights) the zones are read by the softened luma, so that noise does not choose its own gain.
 *
 * Source of the weights: ITU-R BT.709-6. Step 1 and 2 are read from a table (see {@see Curve}).
 */
final class Tone implements Kind
{
    /** @var array{array<string, float>, Curve|null, list<float>|null}|null */
    private ?array $prepared = null;

    private ?Curve $straight = null;

    public function name(): string
    {
        return 'tone';
    }

    public function parameters(): array
    {
        return [
            new Number('lift', -0.5, 0.5, 0),
            new Number('gamma', 0.25, 4, 1),
            new Number('gain', 0, 4, 1),
            new Number('contrast', 0.25, 4, 1),
            new Number('pivot', 0.05, 0.95, 0.4),
            new Number('blacks', -2, 2, 0, 'stops'),
            new Number('shadows', -2, 2, 0, 'stops'),
            new Number('highlights', -2, 2, 0, 'stops'),
            new Number('whites', -2, 2, 0, 'stops'),
            new Number('calm', 0, 0.02, 0, 'heights'),
        ];
    }

    public function isNeutral(array $values): bool
    {
        // The pivot alone does nothing.
        return self::curveIsNeutral($values) && self::zonesAreNeutral($values);
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::around(Gaussian::reach($values['calm'] * $site->rows()));
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        if ($this->prepared === null || $this->prepared[0] !== $values) {
            $this->prepared = [
                $values,
                self::curveIsNeutral($values) ? null : Curve::of(static fn(float $x): float => self::level($x, $values)),
                self::zonesAreNeutral($values) ? null : self::zones($values),
            ];
        }
        [, $curve, $zones] = $this->prepared;
        if ($zones === null) {
            $curve?->apply($planes, $weight);

            return;
        }
        $at = $weight->matte->rect;
        $stride = $planes->rect->width;
        $masks = $values['calm'] > 0.0 ? self::calmed($planes, $at, $values['calm'] * $site->rows(), ($curve ?? $this->straight())->table) : [];
        for ($y = 0; $y < $at->height; ++$y) {
            $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
            self::row($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $y * $at->width, $at->width, $weight->offset, $weight->scale, ($curve ?? $this->straight())->table, $zones, $masks);
        }
    }

    /** @param array<string, float> $v */
    private static function curveIsNeutral(array $v): bool
    {
        return $v['lift'] === 0.0 && $v['gamma'] === 1.0 && $v['gain'] === 1.0 && $v['contrast'] === 1.0;
    }

    /** @param array<string, float> $v */
    private static function zonesAreNeutral(array $v): bool
    {
        return $v['blacks'] === 0.0 && $v['shadows'] === 0.0 && $v['highlights'] === 0.0 && $v['whites'] === 0.0;
    }

    /** @param array<string, float> $v */
    private static function level(float $x, array $v): float
    {
        $y = $v['gain'] * ($x + $v['lift'] * (1 - $x));
        $z = abs($y) ** (1 / $v['gamma']);
        $z = $v['pivot'] * ($z / $v['pivot']) ** $v['contrast'];

        return $y < 0 ? -$z : $z;
    }

    /**
     * The gain by luma, from 0 to 1 in steps of 1/1024.
     *
     * @param array<string, float> $v
     *
     * @return list<float>
     */
    private static function zones(array $v): array
    {
        $gains = [];
        for ($i = 0; $i <= 1024; ++$i) {
            $y = $i / 1024;
            $stops = $v['blacks'] * (1 - Smooth::step(0, 0.2, $y))
                + $v['shadows'] * (1 - Smooth::step(0, 0.5, $y))
                + $v['highlights'] * Smooth::step(0.5, 1, $y)
                + $v['whites'] * Smooth::step(0.8, 1, $y);
            $gains[] = 2 ** ($stops / Transfer::GAMMA);
        }

        return $gains;
    }

    /**
     * Luma without its noise, through the curve: what the zones of a noisy picture are read by.
     *
     * @param list<float> $t curve
     *
     * @return list<float>
     */
    private static function calmed(Planes $planes, Rect $at, float $sigma, array $t): array
    {
        $last = count($t) - 2;
        $luma = Gaussian::blur(Luma::of($planes, $at->grow(Gaussian::reach($sigma))->intersect($planes->rect)), $sigma)->window($at)->v;
        foreach ($luma as $i => $v) {
            $p = ($v + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $luma[$i] = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
        }

        return $luma;
    }

    private function straight(): Curve
    {
        return $this->straight ??= Curve::of(static fn(float $x): float => $x);
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $t curve
     * @param list<float> $z     gain by luma
     * @param list<float> $masks luma to read the zones by, where it is not the pixel's own
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, array $t, array $z, array $masks): void
    {
        $calm = $masks !== [];
        $last = count($t) - 2;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $p = ($r[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $x = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
            $p = ($g[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $y = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
            $p = ($b[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $v = $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c);
            $p = ($calm ? $masks[$j] : 0.2126 * $x + 0.7152 * $y + 0.0722 * $v) * 1024.0;
            if ($p <= 0.0) {
                $gain = $z[0];
            } elseif ($p >= 1024.0) {
                $gain = $z[1024];
            } else {
                $c = (int) $p;
                $gain = $z[$c] + ($z[$c + 1] - $z[$c]) * ($p - $c);
            }
            $r[$i] += ($x * $gain - $r[$i]) * $k;
            $g[$i] += ($y * $gain - $g[$i]) * $k;
            $b[$i] += ($v * $gain - $b[$i]) * $k;
        }
    }
}
