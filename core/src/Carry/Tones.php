<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Colour\CieLab;
use Cossel\Core\Colour\Oklab;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Robust;

/**
 * What an area looks like, in nine numbers: robust means of Oklab L, a, b of all of it, and of its lights and its shadows apart, the
 * half above and the half below its median lightness.
 */
final readonly class Tones
{
    /** Pixels that an area must have. */
    private const FEW = 24;

    /**
     * @param array{float, float, float} $mean    L, a, b
     * @param array{float, float, float} $lights
     * @param array{float, float, float} $shadows
     */
    public function __construct(public array $mean, public array $lights, public array $shadows) {}

    /**
     * @param Grey $matte over the planes' rectangle; what is under a half is left out
     *
     * @return self|null null where the area has too few pixels
     */
    public static function of(LabPlanes $lab, Grey $matte): ?self
    {
        $w = array_map(static fn(float $k): float => $k >= 0.5 ? $k : 0.0, $matte->v);
        if (count(array_filter($w)) < self::FEW) {
            return null;
        }
        $middle = Robust::quantile($lab->l, $w, 0.5);
        $lights = $shadows = $w;
        foreach ($lab->l as $i => $l) {
            $l >= $middle ? $shadows[$i] = 0.0 : $lights[$i] = 0.0;
        }
        $mean = static fn(array $of): array => [Robust::of($lab->l, $of)[0], Robust::of($lab->a, $of)[0], Robust::of($lab->b, $of)[0]];

        return new self($mean($w), $mean($lights), array_sum($shadows) > 0.0 ? $mean($shadows) : $mean($lights));
    }

    /** @param non-empty-list<self> $all */
    public static function mean(array $all): self
    {
        $sums = array_fill(0, 9, 0.0);
        foreach ($all as $tones) {
            foreach ($tones->numbers() as $i => $v) {
                $sums[$i] += $v / count($all);
            }
        }

        return self::ofNumbers($sums);
    }

    /** @return list<float> mean, lights and shadows in a row */
    public function numbers(): array
    {
        return [...$this->mean, ...$this->lights, ...$this->shadows];
    }

    /** @param list<float> $n nine of them */
    public static function ofNumbers(array $n): self
    {
        return new self([$n[0], $n[1], $n[2]], [$n[3], $n[4], $n[5]], [$n[6], $n[7], $n[8]]);
    }

    /** These numbers moved as far as others lie from each other. */
    public function moved(self $from, self $to): self
    {
        $move = static fn(float $v, float $was, float $is): float => $v + $is - $was;

        return self::ofNumbers(array_map($move, $this->numbers(), $from->numbers(), $to->numbers()));
    }

    /** So far on the way to others, 1 being there. */
    public function towards(self $other, float $share): self
    {
        $mix = static fn(float $a, float $b): float => $a + ($b - $a) * $share;

        return self::ofNumbers(array_map($mix, $this->numbers(), $other->numbers()));
    }

    /** How far the means are apart: CIEDE2000. */
    public function apart(self $other): float
    {
        $lab = static fn(array $of): array => CieLab::fromLinear(...Oklab::toLinear(...$of));

        return CieLab::difference($lab($this->mean), $lab($other->mean));
    }
}
