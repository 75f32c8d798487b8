<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * A coarse matte brought to the edges of the picture it belongs to: in every neighbourhood the matte is the mixture of R'G'B' that comes
 * nearest to it by least squares (K. He, J. Sun and X. Tang, "Guided Image Filtering", ECCV 2010, with a guide of colours; mixtures are
 * found for blocks of pixels and used at full size, as in K. He and J. Sun, "Fast Guided Filter", 2015). Kernel class.
 */
final class Guided
{
    /** Blocks of a picture's height. */
    private const ROWS = 180;
    /** Rows of blocks that are looked at together. */
    private const BAND = 16;
    /** How far the neighbourhood goes from its middle, in blocks. */
    private const NEAR = 5;
    /** Variance of R'G'B' that counts as none. */
    private const EVEN = 0.0005;
    /** Variance of the matte round a block under which there is no edge near. */
    private const PLAIN = 0.0004;
    /** What is left of mixtures far from the edge is no part of the matte. */
    private const CUT = 0.05;

    private readonly Blocks $blocks;
    /** @var array{list<float>, list<float>, list<float>, list<float>} of each block, what R', G' and B' count, and what is added */
    private readonly array $mixtures;

    /**
     * @param \Closure(Rect): Planes          $picture the picture over a rectangle
     * @param \Closure(int, int): list<float> $coarse  the matte over the whole of it in so many columns and rows, 0 to 1
     */
    public function __construct(Rect $frame, \Closure $picture, \Closure $coarse)
    {
        $this->blocks = self::blocks($frame);
        [$w, $h] = [$this->blocks->width, $this->blocks->height];
        $r = $g = $b = [];
        foreach ($frame->bands(self::BAND * $this->blocks->side) as $band) {
            $planes = $picture($band);
            $blocks = new Blocks($band, $this->blocks->side);
            array_push($r, ...$blocks->means($planes->r));
            array_push($g, ...$blocks->means($planes->g));
            array_push($b, ...$blocks->means($planes->b));
        }
        $this->mixtures = self::mixtures($coarse($w, $h), $r, $g, $b, static fn(array $v): array => Gaussian::mean($v, $w, $h, self::NEAR));
    }

    /** How far beyond the coarse matte the fine one may reach, pixels. */
    public static function reach(Rect $frame): int
    {
        return (2 * self::NEAR + 1) * self::blocks($frame)->side;
    }

    /** @param Planes $planes the picture, over a window of it */
    public function matte(Planes $planes): Grey
    {
        return new Grey($planes->rect, self::mixed(
            array_map(fn(array $v): array => $this->blocks->over($v, $planes->rect), $this->mixtures),
            $planes->r,
            $planes->g,
            $planes->b,
        ));
    }

    private static function blocks(Rect $frame): Blocks
    {
        return new Blocks($frame, max(1, (int) round($frame->height / self::ROWS)));
    }

    /**
     * @param array{list<float>, list<float>, list<float>, list<float>} $mixtures of each pixel
     * @param list<float>                                               $r
     * @param list<float>                                               $g
     * @param list<float>                                               $b
     *
     * @return list<float>
     */
    private static function mixed(array $mixtures, array $r, array $g, array $b): array
    {
        [$ofR, $ofG, $ofB, $v] = $mixtures;
        $scale = 1.0 / (1.0 - 2 * self::CUT);
        for ($i = 0, $n = count($v); $i < $n; ++$i) {
            $m = ($v[$i] + $ofR[$i] * $r[$i] + $ofG[$i] * $g[$i] + $ofB[$i] * $b[$i] - self::CUT) * $scale;
            $v[$i] = $m < 0.0 ? 0.0 : ($m > 1.0 ? 1.0 : $m);
        }

        return $v;
    }

    /**
     * @param list<float>                        $p    the coarse matte
     * @param list<float>                        $r
     * @param list<float>                        $g
     * @param list<float>                        $b
     * @param \Closure(list<float>): list<float> $mean of the neighbourhood of each
     *
     * @return array{list<float>, list<float>, list<float>, list<float>}
     */
    private static function mixtures(array $p, array $r, array $g, array $b, \Closure $mean): array
    {
        $times = static function (array $u, array $v) use ($mean): array {
            foreach ($u as $i => $x) {
                $u[$i] = $x * $v[$i];
            }

            return $mean($u);
        };
        [$mp, $mr, $mg, $mb] = [$mean($p), $mean($r), $mean($g), $mean($b)];
        [$pp, $pr, $pg, $pb] = [$times($p, $p), $times($p, $r), $times($p, $g), $times($p, $b)];
        [$rr, $rg, $rb, $gg, $gb, $bb] = [$times($r, $r), $times($r, $g), $times($r, $b), $times($g, $g), $times($g, $b), $times($b, $b)];
        $ofR = $ofG = $ofB = array_fill(0, count($p), 0.0);
        $rest = $mp;
        foreach ($mp as $i => $m) {
            if ($pp[$i] - $m * $m < self::PLAIN) {
                continue;
            }
            [$x, $y, $z] = [$mr[$i], $mg[$i], $mb[$i]];
            // The covariances of the colours, and of these with the matte; solved by Cramer's rule.
            [$xx, $yy, $zz] = [$rr[$i] - $x * $x + self::EVEN, $gg[$i] - $y * $y + self::EVEN, $bb[$i] - $z * $z + self::EVEN];
            [$xy, $xz, $yz] = [$rg[$i] - $x * $y, $rb[$i] - $x * $z, $gb[$i] - $y * $z];
            [$u, $v, $w] = [$pr[$i] - $x * $m, $pg[$i] - $y * $m, $pb[$i] - $z * $m];
            [$c0, $c1, $c2] = [$yy * $zz - $yz * $yz, $xz * $yz - $xy * $zz, $xy * $yz - $xz * $yy];
            $by = 1.0 / ($xx * $c0 + $xy * $c1 + $xz * $c2);
            $c4 = $xy * $xz - $xx * $yz;
            $ofR[$i] = $by * ($c0 * $u + $c1 * $v + $c2 * $w);
            $ofG[$i] = $by * ($c1 * $u + ($xx * $zz - $xz * $xz) * $v + $c4 * $w);
            $ofB[$i] = $by * ($c2 * $u + $c4 * $v + ($xx * $yy - $xy * $xy) * $w);
            $rest[$i] = $m - $ofR[$i] * $x - $ofG[$i] * $y - $ofB[$i] * $z;
        }

        return [$mean($ofR), $mean($ofG), $mean($ofB), $mean($rest)];
    }
}
