<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Robust;

/**
 * Evens out skin in Oklab. Everything is measured in face widths, so that it means the same near and far.
 *
 * Skin is told from eyes, lips and hair by its own likeness: with the robust mean and spread of the area, the distance d
 * of the softened a, b (in four spreads, 0.02 at least) and L (three and a half, downwards only) gives
 * s = exp(-max(0, d - 1)²·2). All means below are normalised convolutions over matte x s, so nothing else bleeds in, and
 * all changes are times s.
 *
 * With G(x) the Gaussian whose full width at half maximum is x face widths, a channel is taken apart into pores
 * v - G(.008), lines G(.008) - G(.02) and blotches G(.02) - G(.1). A band value c is diminished by amount x c / (1 +
 * (c / 4 spreads)⁴), which leaves edges alone; negative amounts bring it out.
 *
 *  - tone: 0.8 of the blotches of L, all of lines and blotches of a and b, and half of how far G(.1) of a and b is
 *    from the mean: the modelling of the face, which is in L and coarser, stays;
 *  - pores, lines, blotches: those bands of L;
 *  - redness: how far G(.008) of a is above the mean; shine: 0.8 of how far G(.008) of L is above mean + 1.2 spreads.
 */
final class Even implements InArea, Kind
{
    use Neutral;

    private const PORES = 0.008;
    private const LINES = 0.02;
    private const BLOTCHES = 0.1;
    /** Sigma of a Gaussian over its full width at half maximum. */
    private const SIGMA = 0.42466;

    public function name(): string
    {
        return 'even';
    }

    public function parameters(): array
    {
        return [
            new Number('tone', 0, 1, 0),
            new Number('pores', -1, 1, 0),
            new Number('lines', -1, 1, 0),
            new Number('blotches', -1, 1, 0),
            new Number('redness', 0, 1, 0),
            new Number('shine', 0, 1, 0),
            new Number('width', 0, 4, 0, 'heights'),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return array_filter([...$values, 'width' => 0.0]) === [];
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::area();
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $matte = $site->matte();
        $rect = $matte->rect;
        $extent = $site->extent();
        $face = ($values['width'] > 0.0 ? $values['width'] * $extent->scale() : $extent->width()) * $site->rows() * self::SIGMA;
        $lab = LabPlanes::of($planes, $rect, $site->transfer());
        $over = static fn(array $w, float $size): Normalised => Normalised::over($w, $rect->width, $rect->height, $size * $face);
        $skin = self::skin($lab, $matte->v, $over($matte->v, self::PORES));
        $counted = self::times($matte->v, $skin);
        $softest = $over($counted, self::BLOTCHES);
        $soft = $over($counted, self::PORES);

        $fine = $soft->blur($lab->l);
        $middle = $over($counted, self::LINES)->blur($lab->l);
        $coarse = $softest->blur($lab->l);
        [$mean, $spread] = Robust::of($fine, $counted);
        $l = $lab->l;
        self::lessen($l, $lab->l, $fine, $counted, $skin, $values['pores']);
        self::lessen($l, $fine, $middle, $counted, $skin, $values['lines']);
        self::lessen($l, $middle, $coarse, $counted, $skin, max(-1.0, min(1.0, $values['blotches'] + 0.8 * $values['tone'])));
        self::lower($l, $fine, $skin, $mean + 1.2 * $spread, 0.8 * $values['shine']);
        $lab->l = $l;
        foreach (['a', 'b'] as $channel) {
            $red = $channel === 'a' ? $values['redness'] : 0.0;
            if ($values['tone'] === 0.0 && $red === 0.0) {
                continue;
            }
            $v = $lab->{$channel};
            $fine = $soft->blur($v);
            [$mean] = Robust::of($fine, $counted);
            $lab->{$channel} = self::pulled($v, $fine, $softest->blur($v), $skin, $mean, $values['tone'], $red);
        }
        $lab->into($planes, $weight, $site->transfer());
    }

    /**
     * How much each pixel is like the area's skin, 0..1.
     *
     * @param list<float> $matte
     *
     * @return list<float>
     */
    private static function skin(LabPlanes $lab, array $matte, Normalised $soft): array
    {
        [$l, $a, $b] = [$soft->blur($lab->l), $soft->blur($lab->a), $soft->blur($lab->b)];
        [$l0, $ls] = Robust::of($l, $matte);
        [$a0, $as] = Robust::of($a, $matte);
        [$b0, $bs] = Robust::of($b, $matte);
        $kl = 1.0 / max(0.1, 3.5 * $ls);
        $ka = 1.0 / max(0.02, 4 * $as);
        $kb = 1.0 / max(0.02, 4 * $bs);
        foreach ($l as $i => $x) {
            $d = ($l0 - $x) * $kl;
            $d = $d > 0.0 ? $d * $d : 0.0;
            $p = ($a[$i] - $a0) * $ka;
            $q = ($b[$i] - $b0) * $kb;
            $d = sqrt($d + $p * $p + $q * $q) - 1.0;
            $l[$i] = $d > 0.0 ? exp(-2.0 * $d * $d) : 1.0;
        }

        return $l;
    }

    /**
     * @param list<float> $v
     * @param list<float> $w
     *
     * @return list<float>
     */
    private static function times(array $v, array $w): array
    {
        foreach ($w as $i => $k) {
            $v[$i] *= $k;
        }

        return $v;
    }

    /**
     * Takes a share of the band between two softened versions away.
     *
     * @param list<float> $l
     * @param list<float> $upper
     * @param list<float> $lower
     * @param list<float> $counted
     * @param list<float> $skin
     */
    private static function lessen(array &$l, array $upper, array $lower, array $counted, array $skin, float $amount): void
    {
        if ($amount === 0.0) {
            return;
        }
        foreach ($lower as $i => $x) {
            $upper[$i] -= $x;
        }
        [, $spread] = Robust::of($upper, $counted);
        $limit = 1.0 / max(1e-9, 4 * $spread);
        foreach ($upper as $i => $c) {
            $t = $c * $limit;
            $t *= $t;
            $l[$i] -= $amount * $skin[$i] * $c / (1.0 + $t * $t);
        }
    }

    /**
     * @param list<float> $l
     * @param list<float> $fine
     * @param list<float> $skin
     */
    private static function lower(array &$l, array $fine, array $skin, float $from, float $amount): void
    {
        if ($amount === 0.0) {
            return;
        }
        foreach ($fine as $i => $x) {
            if ($x > $from) {
                $l[$i] -= $amount * $skin[$i] * ($x - $from);
            }
        }
    }

    /**
     * @param list<float> $v
     * @param list<float> $fine
     * @param list<float> $coarse
     * @param list<float> $skin
     *
     * @return list<float>
     */
    private static function pulled(array $v, array $fine, array $coarse, array $skin, float $mean, float $tone, float $red): array
    {
        foreach ($fine as $i => $x) {
            $c = $coarse[$i];
            $less = $tone * ($x - $c + 0.5 * ($c - $mean));
            $over = ($x - $less - $mean) * $red;
            $v[$i] -= $skin[$i] * ($less + ($over > 0.0 ? $over : 0.0));
        }

        return $v;
    }
}
