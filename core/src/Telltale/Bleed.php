<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;

/**
 * Colour on neighbours: how much of what the area changes, summed as distances in Oklab, falls on pixels unlike it. What an
 * area is like is told by its core, the inner .6 of its extent's ellipse where the matte is .9 or more (or all such pixels,
 * where less than a quarter of those in the ellipse lies there, as of lips round a mouth): a count of its colours in bins
 * of 1/16 of lightness and .02 of a and b, each with its neighbours; a pixel is unlike it when its bin holds less than 1/400
 * of the core. Teeth are told by their own colour instead. Covering and inserting bring new colours in by design and are left
 * out, and so is what does not change colour.
 */
final readonly class Bleed extends Telltale
{
    private const CORE = 0.9;
    private const INNER = 0.6;
    private const SHARE = 0.25;
    private const FEW = 30;
    private const RARE = 1 / 400;

    public function __construct()
    {
        parent::__construct(
            'bleed',
            'Colours that are not the area’s own are treated along its edge.',
            unit: '%',
            limit: 20.0,
            most: 100.0,
        );
    }

    public function look(Seen $seen): ?array
    {
        $colours = array_filter($seen->touches, static fn(Touch $touch): bool => $touch->side === Side::Inside && !in_array(
            $touch->kind->name(),
            ['conceal', 'insert', 'grain', 'blur', 'sharpen'],
            true,
        ));
        if (!$seen->isTreated() || $colours === []) {
            return null;
        }
        [$before, $change, $m] = [$seen->before(), $seen->change(), $seen->matte->v];
        $isTeeth = $seen->area?->is(Part::Teeth) === true;
        $counts = $isTeeth ? [] : self::counts($seen);
        if ($counts === null) {
            return null;
        }
        $all = $unlike = 0.0;
        foreach ($m as $i => $k) {
            $d = $change[$i];
            if ($d < 0.004 || $k < 0.02) {
                continue;
            }
            $all += $d;
            if ($isTeeth ? !Tooth::at($before, $i) : !isset($counts[self::bin($before->l[$i], $before->a[$i], $before->b[$i])])) {
                $unlike += $d;
            }
        }
        // Too little to be seen at all.
        if ($all < 0.004 * count($m) / 50) {
            return null;
        }

        return [round(100 * $unlike / $all, 2)];
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        $kept = null;
        $outline = $finding->area?->outline->withShapes(static function (Shape $shape) use ($finding, &$kept): Shape {
            if ($shape instanceof AreaShape || $shape->join !== Join::Add) {
                return $shape;
            }

            return $shape->changed(static function (array $values) use ($finding, &$kept): array {
                $out = round($values['featherOut'] * Cure::AIM / $finding->excess(), 4);
                $kept = max($kept ?? 0.0, $out);

                return [
                    ...$values,
                    'grow' => max(-1.0, round($values['grow'] - ($values['featherOut'] - $out) / 2 - 0.004, 4)),
                    'featherOut' => $out,
                ];
            });
        });

        return [$outline === null || $kept === null ? null : Cure::byRecipe(
            'Draw the edge in and narrow the outer feather to ' . Cure::percent($kept),
            $recipe->withArea($finding->area->withOutline($outline)),
        )];
    }

    /** @return array<int, true>|null the bins that the core's colours lie in; null where there is no core */
    private static function counts(Seen $seen): ?array
    {
        $lab = $seen->before();
        $enough = self::SHARE * count(array_filter(self::within($seen, 1.0), static fn(float $k): bool => $k >= self::CORE));
        foreach ([[self::within($seen, self::INNER), $enough], [$seen->matte->v, 0.0]] as [$w, $least]) {
            $core = 0;
            $counts = [];
            foreach ($w as $i => $k) {
                if ($k >= self::CORE) {
                    ++$core;
                    $bin = self::bin($lab->l[$i], $lab->a[$i], $lab->b[$i]);
                    $counts[$bin] = ($counts[$bin] ?? 0) + 1;
                }
            }
            if ($core >= max(self::FEW, $least)) {
                return self::smeared($counts, self::RARE * $core);
            }
        }

        return null;
    }

    /** @return list<float> the matte where it lies within so many radii of the area's extent, else 0 */
    private static function within(Seen $seen, float $radii): array
    {
        $extent = $seen->extent;
        $rect = $seen->rect();
        $v = $seen->matte->v;
        if ($extent === null) {
            return $v;
        }
        $back = $extent->motion->affineAt($extent->x, $extent->y)->inverse();
        $rows = $seen->rows();
        $i = 0;
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x, ++$i) {
                if ($v[$i] >= self::CORE) {
                    [$px, $py] = $back->apply(($x + 0.5) / $rows, ($y + 0.5) / $rows);
                    $v[$i] = hypot(($px - $extent->x) / $extent->halfWidth, ($py - $extent->y) / $extent->halfHeight) < $radii
                        ? $v[$i]
                        : 0.0;
                }
            }
        }

        return $v;
    }

    /**
     * Bins that, with their neighbours, hold enough.
     *
     * @param array<int, int> $counts
     *
     * @return array<int, true>
     */
    private static function smeared(array $counts, float $least): array
    {
        $smeared = [];
        foreach ($counts as $bin => $n) {
            for ($l = -1; $l <= 1; ++$l) {
                for ($a = -1; $a <= 1; ++$a) {
                    for ($b = -1; $b <= 1; ++$b) {
                        $near = $bin + $l * 65536 + $a * 256 + $b;
                        $smeared[$near] = ($smeared[$near] ?? 0) + $n;
                    }
                }
            }
        }

        return array_map(static fn(): bool => true, array_filter($smeared, static fn(int $n): bool => $n >= $least));
    }

    private static function bin(float $l, float $a, float $b): int
    {
        return ((int) floor($l * 16) + 64) * 65536 + ((int) floor($a / 0.02) + 128) * 256 + (int) floor($b / 0.02) + 128;
    }
}
