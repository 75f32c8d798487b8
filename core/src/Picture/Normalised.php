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
    private function __construct(private array $w, private array $of, private Blocks $blocks, private float $sigma) {}

    /**
     * For any number of planes that count the same.
     *
     * @param list<float> $w how much each pixel counts, 0..1
     */
    public static function over(array $w, int $width, int $height, float $sigma): self
    {
        $rect = Rect::of(0, 0, $width, $height);
        if ($sigma <= 0.0 || $w === []) {
            return new self($w, [], new Blocks($rect, 1), 0.0);
        }
        $side = max(1, (int) floor($sigma / self::LEFT));
        // Means of blocks blur by side² / 12 themselves, reading them back bilinearly by side² / 6.
        $left = $side === 1 ? $sigma : sqrt(max(1.0, $sigma * $sigma / ($side * $side) - 0.25));
        $plain = new self($w, [], new Blocks($rect, $side), $left);

        return new self($w, $plain->blurred($w), $plain->blocks, $left);
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
        $sum = $this->blurred(self::times($v, $this->w));
        foreach ($this->of as $i => $k) {
            $sum[$i] = $k > self::NOTHING ? $sum[$i] / $k : $v[$i];
        }

        return $sum;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private function blurred(array $v): array
    {
        return $this->blocks->over(
            Gaussian::values($this->blocks->means($v), $this->blocks->width, $this->blocks->height, $this->sigma),
            $this->blocks->rect,
        );
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
}
