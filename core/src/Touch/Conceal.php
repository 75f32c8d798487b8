<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;

/**
 * Covers a spot with what lies at an offset from it (picture heights in the outline's frame; it turns and grows with
 * the area, and is taken to whole pixels, so that grain is neither softened nor shimmers). The patch is fitted to the
 * place in the gradient domain (P. Pérez, M. Gangnet, A. Blake, "Poisson Image Editing", SIGGRAPH 2003): what place and
 * patch differ by on the ring round the spot is carried on inside as a membrane, the solution of Laplace's equation,
 * and added `fit` times. `limit` keeps to what is unlike the ring: the weight is times 1 - limit + limit s(1.5, 3.5, e),
 * e how far the softened picture is from the fitted patch, in spreads of the ring.
 */
final class Conceal implements InArea, Kind
{
    private const OUTSIDE = 0.02;
    private const SWEEPS = 80;
    private const RELAX = 1.7;

    public function name(): string
    {
        return 'conceal';
    }

    public function parameters(): array
    {
        return [
            new Number('offsetX', -2, 2, 0, 'heights'),
            new Number('offsetY', -2, 2, 0, 'heights'),
            new Number('fit', 0, 1, 1),
            new Number('limit', 0, 1, 0),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['offsetX'] === 0.0 && $values['offsetY'] === 0.0;
    }

    public function sight(array $values, Site $site): Sight
    {
        [$dx, $dy] = self::offset($values, $site);

        return Sight::area(max(abs($dx), abs($dy)) + self::ring($site));
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        [$dx, $dy] = self::offset($values, $site);
        $matte = $site->matte();
        $ring = self::ring($site);
        $rect = $matte->rect->grow($ring)->intersect($planes->rect);
        $free = self::free($matte->window($rect)->v);
        // What is known on the ring: there without its grain, and a first guess for inside from far around.
        $near = Normalised::over($free, $rect->width, $rect->height, max(1.0, 0.35 * $ring));
        $far = Normalised::over($free, $rect->width, $rect->height, max(2.0, (float) $ring));
        $covers = $errors = [];
        foreach (['r', 'g', 'b'] as $channel) {
            $here = self::read($planes->{$channel}, $planes->rect, $rect, 0, 0);
            $there = self::read($planes->{$channel}, $planes->rect, $rect, $dx, $dy);
            $membrane = self::membrane(self::minus($here, $there), $free, $rect, $near, $far);
            foreach ($there as $i => $v) {
                $there[$i] = $v + $values['fit'] * $membrane[$i];
            }
            $covers[$channel] = $there;
            if ($values['limit'] > 0.0) {
                $errors[] = self::error($here, $there, $free, $rect);
            }
        }
        $limit = $errors === [] ? null : self::likeness($errors, $values['limit']);
        foreach ($covers as $channel => $cover) {
            self::blend($planes->{$channel}, $planes->rect, $cover, $rect, $weight, $limit);
        }
    }

    /**
     * @param array<string, float> $values
     *
     * @return array{int, int} pixels
     */
    private static function offset(array $values, Site $site): array
    {
        [$dx, $dy] = $site->extent()->shift($values['offsetX'], $values['offsetY']);

        return [(int) round($dx * $site->rows()), (int) round($dy * $site->rows())];
    }

    /** Pixels of the ring round the matte on which place and patch are compared. */
    private static function ring(Site $site): int
    {
        return max(3, (int) ceil(0.5 * $site->extent()->radius() * $site->rows()));
    }

    /**
     * @param list<float> $matte
     *
     * @return list<float> 1 outside the matte, 0 where it covers
     */
    private static function free(array $matte): array
    {
        foreach ($matte as $i => $m) {
            $matte[$i] = $m < self::OUTSIDE ? 1.0 : 0.0;
        }

        return $matte;
    }

    /**
     * A channel over a rectangle seen from an offset; beyond the planes their edge goes on.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function read(array $v, Rect $from, Rect $rect, int $dx, int $dy): array
    {
        $out = [];
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            $row = (max($from->y, min($from->bottom() - 1, $y + $dy)) - $from->y) * $from->width;
            for ($x = $rect->x; $x < $rect->right(); ++$x) {
                $out[] = $v[$row + max($from->x, min($from->right() - 1, $x + $dx)) - $from->x];
            }
        }

        return $out;
    }

    /**
     * @param list<float> $v
     * @param list<float> $w
     *
     * @return list<float>
     */
    private static function minus(array $v, array $w): array
    {
        foreach ($w as $i => $x) {
            $v[$i] -= $x;
        }

        return $v;
    }

    /**
     * The difference on the ring, carried on smoothly into the spot.
     *
     * @param list<float> $d
     * @param list<float> $free
     *
     * @return list<float>
     */
    private static function membrane(array $d, array $free, Rect $rect, Normalised $near, Normalised $far): array
    {
        $w = $rect->width;
        $h = $rect->height;
        $edge = $near->blur($d);
        $m = $far->blur($d);
        $inner = [];
        foreach ($free as $i => $f) {
            $x = $i % $w;
            if ($f > 0.0) {
                $m[$i] = $edge[$i];
            } elseif ($x > 0 && $x < $w - 1 && $i >= $w && $i < $w * ($h - 1)) {
                $inner[] = $i;
            }
        }
        for ($sweep = 0; $sweep < self::SWEEPS; ++$sweep) {
            foreach ($inner as $i) {
                $m[$i] += self::RELAX * (0.25 * ($m[$i - 1] + $m[$i + 1] + $m[$i - $w] + $m[$i + $w]) - $m[$i]);
            }
        }

        return $m;
    }

    /**
     * How far the softened picture is from the patch, in spreads of the ring.
     *
     * @param list<float> $here
     * @param list<float> $cover
     * @param list<float> $free
     *
     * @return list<float>
     */
    private static function error(array $here, array $cover, array $free, Rect $rect): array
    {
        $all = array_fill(0, count($free), 1.0);
        $d = Normalised::over($all, $rect->width, $rect->height, 1.0)->blur(self::minus($here, $cover));
        [$centre, $spread] = Robust::of($d, $free);
        foreach ($d as $i => $v) {
            $d[$i] = abs($v - $centre) / max(1e-4, $spread);
        }

        return $d;
    }

    /**
     * @param list<list<float>> $errors of the channels
     *
     * @return list<float>
     */
    private static function likeness(array $errors, float $limit): array
    {
        $out = [];
        foreach ($errors[0] as $i => $e) {
            $out[] = 1 - $limit + $limit * Smooth::step(1.5, 3.5, max($e, $errors[1][$i], $errors[2][$i]));
        }

        return $out;
    }

    /**
     * @param list<float>      $v
     * @param list<float>      $cover
     * @param list<float>|null $limit
     */
    private static function blend(array &$v, Rect $into, array $cover, Rect $from, Weight $weight, ?array $limit): void
    {
        $at = $weight->matte->rect;
        $j = 0;
        for ($y = $at->y; $y < $at->bottom(); ++$y) {
            $o = ($y - $from->y) * $from->width + $at->x - $from->x;
            for ($i = ($y - $into->y) * $into->width + $at->x - $into->x, $end = $i + $at->width; $i < $end; ++$i, ++$o, ++$j) {
                $k = ($weight->offset + $weight->scale * $weight->matte->v[$j]) * ($limit[$o] ?? 1.0);
                if ($k !== 0.0) {
                    $v[$i] += ($cover[$o] - $v[$i]) * $k;
                }
            }
        }
    }
}
