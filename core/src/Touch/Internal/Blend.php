<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;

/** Blend modes of W3C "Compositing and Blending Level 1" (2024), of one colour over a picture, on values cut to 0..1. */
enum Blend: string
{
    case Overlay = 'overlay';
    case SoftLight = 'soft-light';
    case Colour = 'colour';

    /**
     * @param list<float>                $acts   how strongly, over the weight's rectangle
     * @param array{float, float, float} $source R'G'B'
     */
    public function colour(Planes $planes, Weight $weight, array $acts, float $strength, array $source): void
    {
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            for ($end = $i + $weight->rect()->width; $i < $end; ++$i, ++$j) {
                $k = $strength * $acts[$j] * ($weight->offset + $weight->scale * $weight->matte->v[$j]);
                if ($k === 0.0) {
                    continue;
                }
                $backdrop = array_map(
                    static fn(float $v): float => max(0.0, min(1.0, $v)),
                    [$planes->r[$i], $planes->g[$i], $planes->b[$i]],
                );
                [$r, $g, $b] = $this->of($backdrop, $source);
                $planes->r[$i] += ($r - $backdrop[0]) * $k;
                $planes->g[$i] += ($g - $backdrop[1]) * $k;
                $planes->b[$i] += ($b - $backdrop[2]) * $k;
            }
        }
    }

    /**
     * @param array{float, float, float} $backdrop
     * @param array{float, float, float} $source
     *
     * @return array{float, float, float}
     */
    public function of(array $backdrop, array $source): array
    {
        return match ($this) {
            self::Overlay => array_map(
                static fn(float $b, float $s): float => $b <= 0.5 ? 2 * $b * $s : 1 - 2 * (1 - $b) * (1 - $s),
                $backdrop,
                $source,
            ),
            self::SoftLight => array_map(self::softLight(...), $backdrop, $source),
            self::Colour => self::withLuminosity($source, self::luminosity($backdrop)),
        };
    }

    private static function softLight(float $b, float $s): float
    {
        if ($s <= 0.5) {
            return $b - (1 - 2 * $s) * $b * (1 - $b);
        }
        $d = $b <= 0.25 ? ((16 * $b - 12) * $b + 4) * $b : sqrt($b);

        return $b + (2 * $s - 1) * ($d - $b);
    }

    /** @param array{float, float, float} $c */
    private static function luminosity(array $c): float
    {
        return 0.3 * $c[0] + 0.59 * $c[1] + 0.11 * $c[2];
    }

    /**
     * @param array{float, float, float} $c
     *
     * @return array{float, float, float}
     */
    private static function withLuminosity(array $c, float $luminosity): array
    {
        $d = $luminosity - self::luminosity($c);
        $c = array_map(static fn(float $v): float => $v + $d, $c);
        $l = self::luminosity($c);
        $least = min($c);
        $most = max($c);
        if ($least < 0) {
            $c = array_map(static fn(float $v): float => $l + ($v - $l) * $l / ($l - $least), $c);
        }

        return $most > 1 ? array_map(static fn(float $v): float => $l + ($v - $l) * (1 - $l) / ($most - $l), $c) : $c;
    }
}
