<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\Noise;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Smooth;

/**
 * What a patch is lighter or darker by than its own membrane, coarsely, and no more than grain makes by chance: on every
 * frame it is another, so a cover that brought it along would not hold still. What is more is meant: a lid, a jaw. Told on
 * means of blocks. Kernel class.
 */
final readonly class Stray
{
    /** Sigma, in widths of the ring, of what is light rather than texture. */
    private const COARSE = 1.0;
    /** Blocks in that sigma, at least. */
    private const BLOCKS = 5;
    /** Spreads of the grain up to which light strays by chance, and from which it is meant. */
    private const CHANCE = [2.5, 5.0];

    private Blocks $blocks;
    /** @var list<float> 1 where the patch covers and does not lie over the spot itself */
    private array $brought;
    private Lighting $lighting;
    private Normalised $coarse;

    /**
     * @param list<float> $free  1 outside the spot, 0 inside
     * @param list<float> $clear 1 where the patch does not lie over the spot
     * @param float       $ring  width of the ring
     */
    public function __construct(array $free, array $clear, Rect $rect, float $ring)
    {
        $sigma = max(1.0, self::COARSE * $ring);
        $this->blocks = new Blocks($rect, max(1, (int) floor($sigma / self::BLOCKS)));
        [$width, $height, $side] = [$this->blocks->width, $this->blocks->height, $this->blocks->side];
        $whole = static fn(float $v): float => $v > 1 - 1e-9 ? 1.0 : 0.0;
        $known = array_map($whole, $this->blocks->means($free));
        $compared = array_map(static fn(float $f, float $c): float => $f * $whole($c), $known, $this->blocks->means($clear));
        $this->brought = array_map(static fn(float $f, float $c): float => (1.0 - $f) * $c, $free, $clear);
        $this->lighting = new Lighting($known, $compared, $width, $height, $ring / $side);
        $this->coarse = Normalised::over($this->blocks->means($this->brought), $width, $height, $sigma / $side);
    }

    /**
     * @param list<float> $patch a channel of it
     * @param list<float> $apart what the place differs from it by
     * @param list<float> $where 1 where that is known
     *
     * @return list<float>
     */
    public function of(array $patch, array $apart, array $where): array
    {
        // Of one picture, from the difference of two.
        $grain = max(1e-6, Noise::of($apart, $where) / M_SQRT2);
        [$chance, $meant] = [self::CHANCE[0] * $grain, self::CHANCE[1] * $grain];
        $light = $this->blocks->means($patch);
        foreach ($this->lighting->of($light) as $i => $v) {
            $light[$i] -= $v;
        }
        $light = $this->coarse->blur($light);
        foreach ($light as $i => $v) {
            $light[$i] *= 1 - Smooth::step($chance, $meant, abs($v));
        }
        $stray = $this->blocks->over($light, $this->blocks->rect);
        foreach ($this->brought as $i => $k) {
            $stray[$i] *= $k;
        }

        return $stray;
    }
}
