<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Planes;

/**
 * More or less light: linear light x 2^stops.
 *
 * With a BT.1886 display (L = V^2.4) that is a gain of 2^(stops / 2.4) on the code values, exact at every value, under
 * black too; with sRGB it goes by way of linear light (IEC 61966-2-1).
 */
final class Exposure implements Kind
{
    use Neutral;
    use Pointwise;

    public function name(): string
    {
        return 'exposure';
    }

    public function parameters(): array
    {
        return [new Number('stops', -6, 6, 0, 'stops')];
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $transfer = $site->transfer();
        if ($transfer === Transfer::Bt1886) {
            $this->gain($planes, $weight, 2 ** ($values['stops'] / Transfer::GAMMA));

            return;
        }
        $light = 2 ** $values['stops'];
        Curve::of(static fn(float $v): float => $transfer->code($light * $transfer->linear($v)))->apply($planes, $weight);
    }

    private function gain(Planes $planes, Weight $weight, float $gain): void
    {
        $at = $weight->matte->rect;
        $stride = $planes->rect->width;
        for ($y = 0; $y < $at->height; ++$y) {
            $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
            self::row($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $y * $at->width, $at->width, ($gain - 1) * $weight->offset, ($gain - 1) * $weight->scale);
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale): void
    {
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            $r[$i] += $r[$i] * $k;
            $g[$i] += $g[$i] * $k;
            $b[$i] += $b[$i] * $k;
        }
    }
}
