<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Geometry\Linear;

/**
 * What is smooth in values round a hole: the polynomial of x and y that fits them best in least squares, from some thousand
 * of them; a plane where few are known, of second and third degree where there are enough not to follow their noise. So
 * softening what is left does not bend slopes where the hole begins. Kernel class.
 */
final readonly class Trend
{
    private const SAMPLE = 3000;
    /** Terms of a polynomial, by how many values it takes at least. */
    private const TERMS = [1000 => 10, 250 => 6, 0 => 3];

    /** @var list<int> places of the sample */
    private array $sample;
    /** @var list<list<float>> normal equations */
    private array $equations;

    private int $terms;

    /** @param list<float> $free 1 where values are known, 0 in the hole */
    public function __construct(array $free, private int $width, private int $height)
    {
        $known = array_keys($free, 1.0, true);
        $every = max(1, intdiv(count($known), self::SAMPLE));
        $this->sample = array_values(array_filter($known, static fn(int $k): bool => $k % $every === 0, \ARRAY_FILTER_USE_KEY));
        $enough = array_filter(self::TERMS, static fn(int $least): bool => count($known) >= $least, \ARRAY_FILTER_USE_KEY);
        $this->terms = array_values($enough)[0];
        $sums = array_fill(0, $this->terms, array_fill(0, $this->terms, 0.0));
        foreach ($this->sample as $i) {
            $terms = $this->terms($i);
            foreach ($terms as $r => $k) {
                foreach ($terms as $c => $t) {
                    $sums[$r][$c] += $k * $t;
                }
            }
        }
        $this->equations = $sums;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float> the polynomial, everywhere; nothing where it is not settled
     */
    public function of(array $v): array
    {
        $right = array_fill(0, $this->terms, 0.0);
        foreach ($this->sample as $i) {
            foreach ($this->terms($i) as $r => $k) {
                $right[$r] += $k * $v[$i];
            }
        }
        [$a, $b, $c, $d, $e, $f, $g, $h, $k, $l] = array_pad(Linear::solve($this->equations, $right) ?? [], 10, 0.0);
        for ($j = 0, $i = 0; $j < $this->height; ++$j) {
            $y = 2 * ($j + 0.5) / $this->height - 1;
            for ($n = 0; $n < $this->width; ++$n, ++$i) {
                $x = 2 * ($n + 0.5) / $this->width - 1;
                $v[$i] = $a + $y * ($c + $y * ($f + $y * $l)) + $x * ($b + $y * ($e + $y * $k) + $x * ($d + $y * $h + $x * $g));
            }
        }

        return $v;
    }

    /** @return list<float> 1, x, y, x², xy, y², x³, x²y, xy², y³ of a place, from -1 to 1 across */
    private function terms(int $i): array
    {
        $x = 2 * ($i % $this->width + 0.5) / $this->width - 1;
        $y = 2 * (intdiv($i, $this->width) + 0.5) / $this->height - 1;

        $terms = [1.0, $x, $y, $x * $x, $x * $y, $y * $y, $x * $x * $x, $x * $x * $y, $x * $y * $y, $y * $y * $y];

        return array_slice($terms, 0, $this->terms);
    }
}
