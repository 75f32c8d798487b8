<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Blurring that only looks at some of the pixels: normalised convolution, G(w v) / G(w) (H. Knutsson, C.-F. Westin,
 * "Normalized and differential convolution", CVPR 1993), G a Gaussian. What counts for nothing does not bleed into
 * what counts. Wide ones are computed on means of blocks, and read back bilinearly. Kernel class.
 */
final class Normalised
{
    /** Sigma that is left after blocks are taken, in blocks; smaller ones would show the blocks. */
    private const LEFT = 2.5;
    private const NOTHING = 1e-4;

    /**
     * @param list<float> $v
     * @param list<float> $w how much each pixel counts, 0..1
     *
     * @return list<float> where no pixel near counts, what was there
     */
    public static function blur(array $v, array $w, int $width, int $height, float $sigma): array
    {
        if ($sigma <= 0.0 || $v === []) {
            return $v;
        }
        $block = max(1, (int) floor($sigma / self::LEFT));
        if ($block === 1) {
            $sum = Gaussian::values(self::times($v, $w), $width, $height, $sigma);
            $of = Gaussian::values($w, $width, $height, $sigma);

            return self::over($sum, $of, $v);
        }
        $bw = intdiv($width + $block - 1, $block);
        $bh = intdiv($height + $block - 1, $block);
        // Means of blocks blur by block² / 12 themselves, reading them back bilinearly by block² / 6.
        $left = sqrt(max(1.0, $sigma * $sigma / ($block * $block) - 0.25));
        $sum = Gaussian::values(self::blocks(self::times($v, $w), $width, $height, $block, $bw, $bh), $bw, $bh, $left);
        $of = Gaussian::values(self::blocks($w, $width, $height, $block, $bw, $bh), $bw, $bh, $left);

        return self::over(self::spread($sum, $bw, $bh, $width, $height, $block), self::spread($of, $bw, $bh, $width, $height, $block), $v);
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
     * @param list<float> $sum
     * @param list<float> $of
     * @param list<float> $else
     *
     * @return list<float>
     */
    private static function over(array $sum, array $of, array $else): array
    {
        foreach ($of as $i => $k) {
            $sum[$i] = $k > self::NOTHING ? $sum[$i] / $k : $else[$i];
        }

        return $sum;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float> the mean of each block, short ones at the edges included
     */
    private static function blocks(array $v, int $width, int $height, int $block, int $bw, int $bh): array
    {
        $sums = array_fill(0, $bw * $bh, 0.0);
        for ($y = 0, $i = 0; $y < $height; ++$y) {
            $row = intdiv($y, $block) * $bw;
            for ($x = 0, $c = $row; $x < $width; ++$c) {
                for ($end = min($width, $x + $block), $sum = 0.0; $x < $end; ++$x) {
                    $sum += $v[$i++];
                }
                $sums[$c] += $sum;
            }
        }
        $share = 1.0 / ($block * $block);
        $shortX = $width - ($bw - 1) * $block;
        $shortY = $height - ($bh - 1) * $block;
        foreach ($sums as $i => $sum) {
            $sums[$i] = $sum * $share * ($i % $bw === $bw - 1 ? $block / $shortX : 1.0) * ($i >= ($bh - 1) * $bw ? $block / $shortY : 1.0);
        }

        return $sums;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function spread(array $v, int $bw, int $bh, int $width, int $height, int $block): array
    {
        $out = array_fill(0, $width * $height, 0.0);
        $columns = $shares = [];
        for ($x = 0; $x < $width; ++$x) {
            $p = max(0.0, min($bw - 1.0, ($x + 0.5) / $block - 0.5));
            $c = min((int) $p, max(0, $bw - 2));
            $columns[] = $c;
            $shares[] = $bw > 1 ? $p - $c : 0.0;
        }
        $next = $bw > 1 ? 1 : 0;
        for ($y = 0, $i = 0; $y < $height; ++$y) {
            $p = max(0.0, min($bh - 1.0, ($y + 0.5) / $block - 0.5));
            $r = min((int) $p, max(0, $bh - 2));
            $f = $bh > 1 ? $p - $r : 0.0;
            $line = [];
            $below = $bh > 1 ? $bw : 0;
            for ($c = $r * $bw, $end = $c + $bw; $c < $end; ++$c) {
                $line[] = $v[$c] + ($v[$c + $below] - $v[$c]) * $f;
            }
            for ($x = 0; $x < $width; ++$x) {
                $c = $columns[$x];
                $out[$i++] = $line[$c] + ($line[$c + $next] - $line[$c]) * $shares[$x];
            }
        }

        return $out;
    }
}
