<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

/**
 * A function of one code value, tabulated from -1 to 4 in steps of 1/2048 and read with linear interpolation; where that
 * is not close enough, and beyond the table, the function itself is asked. Kernels read it as
 *
 *     c = (int) (p = (x + 1) 2048), cut to the table;  slopes[c] === STEEP ? exact(x) : table[c] + slopes[c] (p - c)
 */
final class Curve
{
    public const STEEP = INF;

    private const FROM = -1.0;
    private const TO = 4.0;
    private const STEPS = 2048;
    /** A quarter of a 16-bit code: what reading between two entries may be off in the middle of them. */
    private const CLOSE = 4e-6;
    private const KEPT = 48;

    /** @var array<string, self> the last ones, by what they were made for */
    private static array $kept = [];

    /**
     * @param list<float> $table
     * @param list<float> $slopes
     * @param \Closure(float): float $function
     */
    private function __construct(public readonly array $table, public readonly array $slopes, private readonly \Closure $function) {}

    /**
     * @param string                       $name     tells this function from all others; one that was asked for lately is not
     *                                               tabulated again
     * @param \Closure(float): float      $function
     * @param \Closure(float): float|null $seen     what counts of a value when closeness is told; null for the value itself
     */
    public static function named(string $name, \Closure $function, ?\Closure $seen = null): self
    {
        $curve = self::$kept[$name] ?? self::of($function, $seen ?? static fn(float $v): float => $v);
        unset(self::$kept[$name]);
        self::$kept[$name] = $curve;
        if (count(self::$kept) > self::KEPT) {
            array_shift(self::$kept);
        }

        return $curve;
    }

    public function at(float $x): float
    {
        $p = ($x - self::FROM) * self::STEPS;
        $c = (int) max(0.0, min(count($this->table) - 1.0, $p));

        return $this->slopes[$c] === self::STEEP ? $this->exact($x) : $this->table[$c] + $this->slopes[$c] * ($p - $c);
    }

    /** The function itself, for what the table does not tell. */
    public function exact(float $x): float
    {
        $p = ($x - self::FROM) * self::STEPS;
        $c = (int) max(0.0, min(count($this->table) - 1.0, $p));

        return $p === (float) $c ? $this->table[$c] : ($this->function)($x);
    }

    /**
     * @param \Closure(float): float $function
     * @param \Closure(float): float $seen
     */
    private static function of(\Closure $function, \Closure $seen): self
    {
        $n = (int) ((self::TO - self::FROM) * self::STEPS);
        $table = $slopes = [];
        for ($i = 0; $i <= $n; ++$i) {
            $table[] = $function(self::FROM + $i / self::STEPS);
        }
        for ($i = 0; $i < $n; ++$i) {
            $middle = $function(self::FROM + ($i + 0.5) / self::STEPS);
            $slopes[] = abs($seen($middle) - $seen(($table[$i] + $table[$i + 1]) / 2)) <= self::CLOSE
                ? $table[$i + 1] - $table[$i]
                : self::STEEP;
        }
        // Beyond either end: the function itself.
        $slopes[0] = self::STEEP;
        $slopes[] = self::STEEP;

        return new self($table, $slopes, $function);
    }
}
