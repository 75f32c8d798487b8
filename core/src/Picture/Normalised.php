<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Blurring that only looks at some of the pixels: normalised convolution, G(w v) / G(w) (H. Knutsson, C.-F. Westin,
 * "Normalized and differential convolution", CVPR 1993), G a Gaussian. What counts for nothing does not bleed into
 * what counts. Wide ones are computed on means of blocks, and read back bilinearly. Kernel class.
 */
final readonly class Normalised
{
    /** Sigma that is left after blocks are taken, in blocks; smaller ones would show the blocks. */
    private const LEFT = 2.5;
    private const NOTHING = 1e-4;

    /**
     * @param list<float> $w
     * @param list<float> $of G(w), at the size the Gaussian is computed at
     */
    private function __construct(private array $w, private array $of, private int $width, private int $height, private float $sigma, private int $block) {}

    /**
     * For any number of planes that count the same.
     *
     * @param list<float> $w how much each pixel counts, 0..1
     */
    public static function over(array $w, int $width, int $height, float $sigma): self
    {
        if ($sigma <= 0.0 || $w === []) {
            return new self($w, [], $width, $height, 0.0, 1);
        }
        $block = max(1, (int) floor($sigma / self::LEFT));
        // Means of blocks blur by block² / 12 themselves, reading them back bilinearly by block² / 6.
        $left = $block === 1 ? $sigma : sqrt(max(1.0, $sigma * $sigma / ($block * $block) - 0.25));
        $plain = new self($w, [], $width, $height, $left, $block);

        return new self($w, $plain->spread($plain->gathered($w)), $width, $height, $left, $block);
    }

    /**
     * @param list<float> $v
     *
     * @return list<float> where no pixel near counts, what was there
     */
    public function blur(array $v): array
    {
        if ($this->of === []) {
            return $v;
        }
        $sum = $this->spread($this->gathered(self::times($v, $this->w)));
        foreach ($this->of as $i => $k) {
            $sum[$i] = $k > self::NOTHING ? $sum[$i] / $k : $v[$i];
        }

        return $sum;
    }

    /**
     * Blurred, in blocks.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private function gathered(array $v): array
    {
        if ($this->block === 1) {
            return Gaussian::values($v, $this->width, $this->height, $this->sigma);
        }
        [$bw, $bh] = $this->size();

        return Gaussian::values(self::blocks($v, $this->width, $this->height, $this->block, $bw, $bh), $bw, $bh, $this->sigma);
    }

    /**
     * Blocks as pixels again.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private function spread(array $v): array
    {
        return $this->block === 1 ? $v : self::bilinear($v, ...$this->size(), width: $this->width, height: $this->height, block: $this->block);
    }

    /** @return array{int, int} in blocks */
    private function size(): array
    {
        return [intdiv($this->width + $this->block - 1, $this->block), intdiv($this->height + $this->block - 1, $this->block)];
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
    private static function bilinear(array $v, int $bw, int $bh, int $width, int $height, int $block): array
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
