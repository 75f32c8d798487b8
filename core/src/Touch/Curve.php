<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;

/**
 * A function of one code value, tabulated from -1 to 4 in steps of 1/2048 and read with linear interpolation; beyond,
 * it goes on straight. Kernel class.
 */
final readonly class Curve
{
    public const FROM = -1.0;
    public const TO = 4.0;
    public const STEPS = 2048;

    /** @param list<float> $table */
    private function __construct(public array $table) {}

    /** @param callable(float): float $function */
    public static function of(callable $function): self
    {
        $table = [];
        for ($i = 0, $n = (int) ((self::TO - self::FROM) * self::STEPS) + 1; $i < $n; ++$i) {
            $table[] = $function(self::FROM + $i / self::STEPS);
        }

        return new self($table);
    }

    /** Every channel through the curve. */
    public function apply(Planes $planes, Weight $weight): void
    {
        self::channels($planes, $weight, $this, $this, $this);
    }

    /** Each channel through a curve of its own. */
    public static function channels(Planes $planes, Weight $weight, self $red, self $green, self $blue): void
    {
        $at = $weight->matte->rect;
        $stride = $planes->rect->width;
        for ($y = 0; $y < $at->height; ++$y) {
            $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
            self::row($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $y * $at->width, $at->width, $weight->offset, $weight->scale, $red->table, $green->table, $blue->table);
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $red
     * @param list<float> $green
     * @param list<float> $blue
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, array $red, array $green, array $blue): void
    {
        $last = count($red) - 2;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $x = $r[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $a = $red[$c];
            $r[$i] = $x + ($a + ($red[$c + 1] - $a) * ($p - $c) - $x) * $k;
            $x = $g[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $a = $green[$c];
            $g[$i] = $x + ($a + ($green[$c + 1] - $a) * ($p - $c) - $x) * $k;
            $x = $b[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $a = $blue[$c];
            $b[$i] = $x + ($a + ($blue[$c + 1] - $a) * ($p - $c) - $x) * $k;
        }
    }
}
