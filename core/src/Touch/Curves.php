<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Geometry\Spline;
use Cossel\Core\Picture\Planes;

/**
 * Curves on code values through points, see {@see Spline}: red, green and blue each by its own, then luma: what the curve
 * adds to Y' (BT.709 weights) is added to all three, so that the colour differences stay as they are.
 */
final class Curves implements Kind
{
    use Neutral;
    use Pointwise;

    /** @var array<string, array{list<array{float, float}>, Curve}> by parameter */
    private array $prepared = [];

    public function name(): string
    {
        return 'curves';
    }

    public function parameters(): array
    {
        return array_map(static fn(string $name): Points => new Points($name, [0, 1], [0, 1]), ['luma', 'red', 'green', 'blue']);
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        if ($values['red'] !== [] || $values['green'] !== [] || $values['blue'] !== []) {
            Curve::channels($planes, $weight, $this->curve('red', $values), $this->curve('green', $values), $this->curve('blue', $values));
        }
        if ($values['luma'] !== []) {
            $table = $this->curve('luma', $values)->table;
            $at = $weight->matte->rect;
            $stride = $planes->rect->width;
            for ($y = 0; $y < $at->height; ++$y) {
                $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
                self::row($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $y * $at->width, $at->width, $weight->offset, $weight->scale, $table);
            }
        }
    }

    /** @param array<string, list<array{float, float}>> $values */
    private function curve(string $name, array $values): Curve
    {
        $points = $values[$name];
        if (!isset($this->prepared[$name]) || $this->prepared[$name][0] !== $points) {
            $this->prepared[$name] = [$points, $points === [] ? Curve::of(static fn(float $x): float => $x) : Curve::of(Spline::through($points)->at(...))];
        }

        return $this->prepared[$name][1];
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $t
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, array $t): void
    {
        $last = count($t) - 2;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $luma = 0.2126 * $r[$i] + 0.7152 * $g[$i] + 0.0722 * $b[$i];
            $p = ($luma + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $k *= $t[$c] + ($t[$c + 1] - $t[$c]) * ($p - $c) - $luma;
            $r[$i] += $k;
            $g[$i] += $k;
            $b[$i] += $k;
        }
    }
}
