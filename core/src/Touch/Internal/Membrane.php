<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Rect;

/**
 * Carries values on into a hole as a membrane: the solution of Laplace's equation that takes the values round the hole at
 * its border; where the hole ends with the picture, nothing pulls at it. By successive over-relaxation with the factor
 * that is best for a rectangle of the hole's size (D. Young, "Iterative Solution of Large Linear Systems", 1971), until
 * what is left cannot be further from the solution than 5e-5. Holes of more than some ten thousand pixels are solved on means of
 * blocks: a membrane is smooth. Kernel class.
 */
final readonly class Membrane
{
    private const CLOSE = 5e-5;
    private const MOST = 60_000;
    private const SWEEPS = 8;

    private Blocks $blocks;
    /** @var list<int> blocks of the hole with neighbours all around */
    private array $inner;
    /** @var list<array{int, int, int, int, int}> the others with their neighbours, themselves where there is none */
    private array $edge;
    private Normalised $guess;
    /** What a sweep of plain relaxation leaves at most of the slowest error. */
    private float $slowest;

    /** @param list<float> $free 1 where values are known, 0 in the hole */
    public function __construct(private array $free, int $width, int $height)
    {
        $rect = Rect::of(0, 0, $width, $height);
        $this->blocks = new Blocks($rect, max(1, (int) ceil(sqrt($rect->count() / self::MOST))));
        [$w, $h] = [$this->blocks->width, $this->blocks->height];
        $known = $this->blocks->means($free);
        $inner = $edge = [];
        [$left, $right, $top, $bottom] = [$w, -1, $h, -1];
        foreach ($known as $i => $f) {
            if ($f >= 1.0 - 1e-9) {
                continue;
            }
            $known[$i] = 0.0;
            [$x, $y] = [$i % $w, intdiv($i, $w)];
            [$left, $right, $top, $bottom] = [min($left, $x), max($right, $x), min($top, $y), max($bottom, $y)];
            if ($x > 0 && $x < $w - 1 && $y > 0 && $y < $h - 1) {
                $inner[] = $i;
            } else {
                $edge[] = [$i, $x > 0 ? $i - 1 : $i, $x < $w - 1 ? $i + 1 : $i, $y > 0 ? $i - $w : $i, $y < $h - 1 ? $i + $w : $i];
            }
        }
        $this->inner = $inner;
        $this->edge = $edge;
        $open = $edge === [] ? 1 : 2;
        $this->slowest = (cos(M_PI / max(2, $open * ($right - $left + 2))) + cos(M_PI / max(2, $open * ($bottom - $top + 2)))) / 2;
        $this->guess = Normalised::over($known, $w, $h, max(1.0, 0.25 * sqrt($w * $h)));
    }

    /**
     * @param list<float> $v known outside the hole
     *
     * @return list<float> the same there, the membrane inside
     */
    public function over(array $v): array
    {
        if ($this->inner === [] && $this->edge === []) {
            return $v;
        }
        $m = $this->solved($this->blocks->means($v));
        if ($this->blocks->side === 1) {
            return $m;
        }
        foreach ($this->blocks->over($m, $this->blocks->rect) as $i => $x) {
            if ($this->free[$i] === 0.0) {
                $v[$i] = $x;
            }
        }

        return $v;
    }

    /**
     * @param list<float> $m by blocks
     *
     * @return list<float>
     */
    private function solved(array $m): array
    {
        $guess = $this->guess->blur($m);
        foreach ($this->inner as $i) {
            $m[$i] = $guess[$i];
        }
        foreach ($this->edge as [$i]) {
            $m[$i] = $guess[$i];
        }
        $relax = 2 / (1 + sqrt(1 - $this->slowest ** 2));
        $rounds = (int) ceil(20 / (self::SWEEPS * (2 - $relax)));
        for ($round = 0; $round < $rounds; ++$round) {
            for ($sweep = 0; $sweep < self::SWEEPS; ++$sweep) {
                self::sweep($m, $this->inner, $this->edge, $this->blocks->width, $relax);
            }
            if (self::left($m, $this->inner, $this->edge, $this->blocks->width) < self::CLOSE * (1 - $this->slowest)) {
                break;
            }
        }

        return $m;
    }

    /**
     * @param list<float>                             $m
     * @param list<int>                               $inner
     * @param list<array{int, int, int, int, int}> $edge
     */
    private static function sweep(array &$m, array $inner, array $edge, int $w, float $relax): void
    {
        foreach ($inner as $i) {
            $m[$i] += $relax * (0.25 * ($m[$i - 1] + $m[$i + 1] + $m[$i - $w] + $m[$i + $w]) - $m[$i]);
        }
        foreach ($edge as [$i, $a, $b, $c, $d]) {
            $m[$i] += $relax * (0.25 * ($m[$a] + $m[$b] + $m[$c] + $m[$d]) - $m[$i]);
        }
    }

    /**
     * @param list<float>                             $m
     * @param list<int>                               $inner
     * @param list<array{int, int, int, int, int}> $edge
     *
     * @return float how far any is from the mean of its neighbours
     */
    private static function left(array $m, array $inner, array $edge, int $w): float
    {
        $most = 0.0;
        foreach ($inner as $i) {
            $most = max($most, abs(0.25 * ($m[$i - 1] + $m[$i + 1] + $m[$i - $w] + $m[$i + $w]) - $m[$i]));
        }
        foreach ($edge as [$i, $a, $b, $c, $d]) {
            $most = max($most, abs(0.25 * ($m[$a] + $m[$b] + $m[$c] + $m[$d]) - $m[$i]));
        }

        return $most;
    }
}
