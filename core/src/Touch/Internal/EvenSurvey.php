<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;

/**
 * What an area's skin is, and what evening it takes away: all of that is softened by the size of pores at least, so means of blocks
 * that blur as much themselves tell it. Where pores are asked for, and where whole blocks would blur more, lightness without them
 * is told more finely; the spread of pores comes from single pixels.
 */
final readonly class EvenSurvey implements Survey
{
    /** Full widths at half maximum in face widths. */
    private const PORES = 0.008;
    private const LINES = 0.02;
    private const BLOTCHES = 0.1;
    /** Sigma of a Gaussian over its full width at half maximum. */
    private const SIGMA = 0.42466;
    /** The same of blocks over their side: of their means, read back bilinearly. */
    private const OWN = 0.5;
    /** Sigma of the pores' Gaussian in finer blocks, at least: under it these would show by more than 0.0005 of what they are of. */
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
            (int) floor($this->finest() / ($this->pores === 0.0 ? self::OWN : self::LEFT)),
            (int) ceil(sqrt($this->sees()->count() / self::MOST)),
        );
    }

    /** Sigma of the pores' Gaussian in pixels. */
    private function finest(): float
    {
        return self::PORES * self::SIGMA * $this->face;
    }

    public function needs(Rect $rect): Rect
    {
        return $rect;
    }

    public function effect(AreaPicture $picture): Effect
    {
        $area = AreaLab::of($picture, $this->site->transfer());
        $many = max(1, (int) round($this->finest() / self::OWN / $picture->blocks->side));
        $blocks = new Blocks($picture->blocks->rect, $many * $picture->blocks->side);
        $small = new Blocks($picture->planes->rect, $many);
        $matte = $small->means($picture->matte->v);
        [$l, $a, $b] = array_map($small->means(...), [$area->shown->l, $area->shown->a, $area->shown->b]);
        $skin = self::skin($l, $a, $b, $matte, $this->softened($matte, $blocks, self::PORES));
        $counted = self::times($matte, $skin);
        $softest = $this->softened($counted, $blocks, self::BLOTCHES);
        $soft = $this->softened($counted, $blocks, self::PORES);

        $fine = $soft->blur($l);
        [$mean, $spread] = Robust::of($fine, $counted);
        $blotches = max(-1.0, min(1.0, $this->blotches + 0.8 * $this->tone));
        $middle = $this->lines === 0.0 && $blotches === 0.0 ? null : $this->softened($counted, $blocks, self::LINES)->blur($l);
        $coarse = $blotches === 0.0 ? null : $softest->blur($l);
        $colours = [];
        foreach (['a' => [$a, $this->redness], 'b' => [$b, 0.0]] as $channel => [$v, $red]) {
            if ($this->tone === 0.0 && $red === 0.0) {
                continue;
            }
            $softened = $soft->blur($v);
            $mid = Robust::of($softened, $counted)[0];
            $colours[$channel] = new Blocked($blocks, self::pulled($softened, $softest->blur($v), $mid, $this->tone, $red));
        }
        $like = new Blocked($blocks, $skin);
        $pores = new Blocked($blocks, $fine);
        if ($many > 1) {
            $finely = self::times($picture->matte->v, $small->over($skin, $small->rect));
            $pores = new Blocked($picture->blocks, $this->softened($finely, $picture->blocks, self::PORES)->blur($area->shown->l));
        }

        return new EvenEffect(
            $area,
            $like,
            [$pores, $middle === null ? null : new Blocked($blocks, $middle), $coarse === null ? null : new Blocked($blocks, $coarse)],
            [
                [$this->pores, $this->pores === 0.0 ? 0.0 : self::limit($this->spread($picture, $area->shown, $pores, $like))],
                [$this->lines, $this->lines === 0.0 ? 0.0 : self::limit(self::between($fine, $middle ?? [], $counted))],
                [$blotches, $blotches === 0.0 ? 0.0 : self::limit(self::between($middle ?? [], $coarse ?? [], $counted))],
            ],
            [0.8 * $this->shine, $mean + 1.2 * $spread],
            $colours,
            $this->site->transfer(),
        );
    }

    /**
     * Blurs by a full width at half maximum in face widths, less what the blocks blur themselves.
     *
     * @param list<float> $w
     */
    private function softened(array $w, Blocks $blocks, float $size): Normalised
    {
        $sigma = self::SIGMA * $size * $this->face / $blocks->side;
        $own = $blocks->side === 1 ? 0.0 : self::OWN;

        return Normalised::over($w, $blocks->width, $blocks->height, sqrt(max(0.0, $sigma * $sigma - $own * $own)));
    }

    /** The inverse of what is an edge and not of a band with that spread. */
    private static function limit(float $spread): float
    {
        return 1.0 / max(1e-9, 4 * $spread);
    }

    /**
     * How much each block is like the area's skin, 0..1.
     *
     * @param list<float> $l
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $matte
     *
     * @return list<float>
     */
    private static function skin(array $l, array $a, array $b, array $matte, Normalised $soft): array
    {
        [$l, $a, $b] = [$soft->blur($l), $soft->blur($a), $soft->blur($b)];
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

    /** Robust spread of what is finer than the softened lightness, pixel by pixel. */
    private function spread(AreaPicture $picture, LabPlanes $shown, Blocked $fine, Blocked $skin): float
    {
        $bands = $counted = [];
        foreach ($picture->pieces as [$planes, $matte]) {
            $lab = $picture->blocks->side === 1
                ? $shown->at($picture->blocks->rect)->window($planes->rect)
                : LabPlanes::of($planes, $planes->rect, $this->site->transfer());
            $soft = $fine->over($planes->rect);
            $like = $skin->over($planes->rect);
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
     * Robust spread of the band between two softened versions.
     *
     * @param list<float> $upper
     * @param list<float> $lower
     * @param list<float> $counted
     */
    private static function between(array $upper, array $lower, array $counted): float
    {
        foreach ($lower as $i => $x) {
            $upper[$i] -= $x;
        }

        return Robust::of($upper, $counted)[1];
    }

    /**
     * @param list<float> $fine
     * @param list<float> $coarse
     *
     * @return list<float> what is taken away of a or b where it is skin
     */
    private static function pulled(array $fine, array $coarse, float $mean, float $tone, float $red): array
    {
        foreach ($fine as $i => $x) {
            $c = $coarse[$i];
            $less = $tone * ($x - $c + 0.5 * ($c - $mean));
            $over = ($x - $less - $mean) * $red;
            $fine[$i] = $less + ($over > 0.0 ? $over : 0.0);
        }

        return $fine;
    }
}
