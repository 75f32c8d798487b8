<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;

/**
 * What an area's skin is, and what evening it takes away: all of that is softened by the size of pores at least, so means of
 * blocks a little smaller than that tell it. Only the spread of the pores themselves is measured on single pixels.
 */
final readonly class EvenSurvey implements Survey
{
    /** Full widths at half maximum in face widths. */
    private const PORES = 0.008;
    private const LINES = 0.02;
    private const BLOTCHES = 0.1;
    /** Sigma of a Gaussian over its full width at half maximum. */
    private const SIGMA = 0.42466;
    /** Sigma of the pores' Gaussian in blocks, at least: under it the blocks would show by more than 0.0005 of what they are of. */
    private const LEFT = 1.25;
    private const MOST = 1_000_000;

    /** @param float $face width in pixels */
    public function __construct(
        private float $tone,
        private float $pores,
        private float $lines,
        private float $blotches,
        private float $redness,
        private float $shine,
        private float $face,
        private Site $site,
    ) {}

    public function sees(): Rect
    {
        return $this->site->bounds();
    }

    public function block(): int
    {
        return max(
            1,
            (int) floor(self::PORES * self::SIGMA * $this->face / self::LEFT),
            (int) ceil(sqrt($this->sees()->count() / self::MOST)),
        );
    }

    public function needs(Rect $rect): Rect
    {
        return $rect;
    }

    public function effect(AreaPicture $picture): Effect
    {
        $rect = $picture->planes->rect;
        $matte = $picture->matte->v;
        $area = AreaLab::of($picture, $this->site->transfer());
        $lab = $area->shown;
        $sigma = self::SIGMA * $this->face / $picture->blocks->side;
        $over = static fn(array $w, float $size): Normalised => Normalised::over($w, $rect->width, $rect->height, $size * $sigma);
        $skin = self::skin($lab, $matte, $over($matte, self::PORES));
        $counted = self::times($matte, $skin);
        $softest = $over($counted, self::BLOTCHES);
        $soft = $over($counted, self::PORES);

        $fine = $soft->blur($lab->l);
        [$mean, $spread] = Robust::of($fine, $counted);
        $less = array_fill(0, $rect->count(), 0.0);
        $blotches = max(-1.0, min(1.0, $this->blotches + 0.8 * $this->tone));
        if ($this->lines !== 0.0 || $blotches !== 0.0) {
            $middle = $over($counted, self::LINES)->blur($lab->l);
            self::lessen($less, $fine, $middle, $counted, $skin, $this->lines);
            self::lessen($less, $middle, $softest->blur($lab->l), $counted, $skin, $blotches);
        }
        self::lower($less, $fine, $skin, $mean + 1.2 * $spread, 0.8 * $this->shine);
        $colours = [];
        foreach (['a' => $this->redness, 'b' => 0.0] as $channel => $red) {
            if ($this->tone === 0.0 && $red === 0.0) {
                continue;
            }
            $softened = $soft->blur($lab->{$channel});
            $colours[$channel] = self::pulled(
                $softened,
                $softest->blur($lab->{$channel}),
                $skin,
                Robust::of($softened, $counted)[0],
                $this->tone,
                $red,
            );
        }

        return new EvenEffect(
            $area,
            $picture->blocks,
            $less,
            $colours,
            $this->pores,
            $this->pores === 0.0 ? [] : $skin,
            $this->pores === 0.0 ? [] : $fine,
            $this->pores === 0.0 ? 0.0 : $this->spread($picture, $lab, $fine, $skin),
            $this->site->transfer(),
        );
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
     * Robust spread of what is finer than the softened lightness, pixel by pixel.
     *
     * @param list<float> $fine
     * @param list<float> $skin
     */
    private function spread(AreaPicture $picture, LabPlanes $shown, array $fine, array $skin): float
    {
        $bands = $counted = [];
        foreach ($picture->pieces as [$planes, $matte]) {
            $lab = $picture->blocks->side === 1
                ? $shown->at($picture->blocks->rect)->window($planes->rect)
                : LabPlanes::of($planes, $planes->rect, $this->site->transfer());
            $soft = $picture->blocks->over($fine, $planes->rect);
            $like = $picture->blocks->over($skin, $planes->rect);
            foreach ($soft as $i => $v) {
                $soft[$i] = $lab->l[$i] - $v;
                $like[$i] *= $matte->v[$i];
            }
            $bands[] = $soft;
            $counted[] = $like;
        }

        return Robust::of(array_merge(...$bands), array_merge(...$counted))[1];
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
     * Adds a share of the band between two softened versions to what is taken away.
     *
     * @param list<float> $less
     * @param list<float> $upper
     * @param list<float> $lower
     * @param list<float> $counted
     * @param list<float> $skin
     */
    private static function lessen(array &$less, array $upper, array $lower, array $counted, array $skin, float $amount): void
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
            $less[$i] += $amount * $skin[$i] * $c / (1.0 + $t * $t);
        }
    }

    /**
     * @param list<float> $less
     * @param list<float> $fine
     * @param list<float> $skin
     */
    private static function lower(array &$less, array $fine, array $skin, float $from, float $amount): void
    {
        if ($amount === 0.0) {
            return;
        }
        foreach ($fine as $i => $x) {
            if ($x > $from) {
                $less[$i] += $amount * $skin[$i] * ($x - $from);
            }
        }
    }

    /**
     * @param list<float> $fine
     * @param list<float> $coarse
     * @param list<float> $skin
     *
     * @return list<float> what is taken away of a or b
     */
    private static function pulled(array $fine, array $coarse, array $skin, float $mean, float $tone, float $red): array
    {
        foreach ($fine as $i => $x) {
            $c = $coarse[$i];
            $less = $tone * ($x - $c + 0.5 * ($c - $mean));
            $over = ($x - $less - $mean) * $red;
            $fine[$i] = $skin[$i] * ($less + ($over > 0.0 ? $over : 0.0));
        }

        return $fine;
    }
}
