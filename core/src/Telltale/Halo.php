<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;

/**
 * A step along the feather that the picture itself does not have there. At every pixel where the matte m changes, n is the
 * direction of its gradient. Over tiles of 1/24 of the picture's height, weighted with |grad m|, the mean step in Oklab
 * S = <V(p + hn) - V(p - hn)> is taken of the picture V as the area is given it (B) and as it leaves it (A), and set against
 * how restless the given picture is there, P = sqrt<|B(p + hn) - B(p - hn)|²>:
 *
 *     halo = (|S_A| - max(0, S_A S_B / |S_A|)) / (P + .012)
 *
 * for h of 1/270 and 1/90 of the height, whichever is greater: the step less that part of it that was there. .012 is about
 * what the eye can just tell apart. The measure is the value that nine tenths of the tiles, by the length of edge in them,
 * stay below.
 */
final readonly class Halo extends Telltale
{
    private const TILES = 24;
    private const SEEN = 0.012;

    /**
     * How wide a feather a hard edge is given for each time it passes the limit: over it, the smoothstep's steepest (1.5 times
     * the mean) then rises by no more than the limit within the greater step that a halo is measured by (2 / 90).
     */
    private const FEATHER = 3 / 90;
    private const MOST_FEATHER = 0.4;

    public function __construct()
    {
        parent::__construct(
            'halo',
            'A step runs along the feather that the picture itself does not have there.',
            unit: '× the picture’s own',
            limit: 1.25,
            most: 10.0,
        );
    }

    public function look(Seen $seen): ?array
    {
        if (!$seen->isTreated()) {
            return null;
        }
        $rows = $seen->rows();
        $most = null;
        foreach ([1 / 270, 1 / 90] as $h) {
            $tiles = self::tiles($seen, max(1, (int) round($h * $rows)), max(4, intdiv($rows, self::TILES)));
            $halo = self::most90($tiles);
            $most = $halo === null ? $most : max($most ?? 0.0, $halo);
        }

        return $most === null ? null : [round($most, 4)];
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return [self::wider($finding, $recipe), Cure::weaker($finding, $recipe)];
    }

    private static function wider(Finding $finding, Recipe $recipe): ?Cure
    {
        $times = $finding->excess() / Cure::AIM;
        $widest = 0.0;
        $outline = $finding->area?->outline->withShapes(static function (Shape $shape) use ($times, &$widest): Shape {
            if ($shape instanceof AreaShape || $shape->join !== Join::Add) {
                return $shape;
            }

            return $shape->changed(static function (array $values) use ($times, &$widest): array {
                $wider = min(
                    self::MOST_FEATHER,
                    round(max($values['featherIn'] + $values['featherOut'], self::FEATHER) * $times - $values['featherIn'], 3),
                );
                $values['featherOut'] = max($wider, $values['featherOut']);
                $widest = max($widest, $values['featherOut']);

                return $values;
            });
        });

        return $outline === null || $widest === 0.0 ? null : Cure::byRecipe(
            'Widen the outer feather to ' . Cure::percent($widest) . ' of the height',
            $recipe->withArea($finding->area->withOutline($outline)),
        );
    }

    /** @return list<array{float, float}> score and weight of each tile with enough edge in it */
    private static function tiles(Seen $seen, int $h, int $tile): array
    {
        [$before, $after, $rect, $m] = [$seen->before(), $seen->after(), $seen->rect(), $seen->matte->v];
        $w = $rect->width;
        // A wide feather is seen well enough by every few pixels.
        $stride = max(1, min(3, (int) (0.15 / max(1e-3, self::steepest($m, $w)))));
        [$lb, $ab, $bb, $la, $aa, $ba] = [$before->l, $before->a, $before->b, $after->l, $after->a, $after->b];
        $sums = [];
        for ($y = $h + 1; $y < $rect->height - $h - 1; $y += $stride) {
            for ($x = $h + 1, $i = $y * $w + $x; $x < $w - $h - 1; $x += $stride, $i += $stride) {
                $gx = ($m[$i + 1] - $m[$i - 1]) / 2;
                $gy = ($m[$i + $w] - $m[$i - $w]) / 2;
                $g = sqrt($gx * $gx + $gy * $gy);
                if ($g < 1e-3) {
                    continue;
                }
                $o = (int) round($h * $gy / $g) * $w + (int) round($h * $gx / $g);
                $t = intdiv($y, $tile) * 4096 + intdiv($x, $tile);
                $p = $i + $o;
                $q = $i - $o;
                [$weight, $own, $l0, $a0, $b0, $l1, $a1, $b1] = $sums[$t] ?? [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
                $dl = $lb[$p] - $lb[$q];
                $da = $ab[$p] - $ab[$q];
                $db = $bb[$p] - $bb[$q];
                $sums[$t] = [
                    $weight + $g, $own + $g * ($dl * $dl + $da * $da + $db * $db),
                    $l0 + $g * $dl, $a0 + $g * $da, $b0 + $g * $db,
                    $l1 + $g * ($la[$p] - $la[$q]), $a1 + $g * ($aa[$p] - $aa[$q]), $b1 + $g * ($ba[$p] - $ba[$q]),
                ];
            }
        }
        $scores = [];
        foreach ($sums as [$weight, $own, $l0, $a0, $b0, $l1, $a1, $b1]) {
            // The gradient summed along a line across an edge is 1: the weight is a length of edge in pixels.
            if ($weight * $stride * $stride < $tile / 4) {
                continue;
            }
            $step = sqrt($l1 * $l1 + $a1 * $a1 + $b1 * $b1);
            $there = ($l0 * $l1 + $a0 * $a1 + $b0 * $b1) / max(1e-9, $step);
            $scores[] = [max(0.0, $step - max(0.0, $there)) / $weight / (sqrt($own / $weight) + self::SEEN), $weight];
        }

        return $scores;
    }

    /** @param list<float> $m */
    private static function steepest(array $m, int $w): float
    {
        $most = 0.0;
        for ($i = $w, $end = count($m); $i < $end; ++$i) {
            $most = max($most, abs($m[$i] - $m[$i - 1]), abs($m[$i] - $m[$i - $w]));
        }

        return $most;
    }

    /** @param list<array{float, float}> $tiles */
    private static function most90(array $tiles): ?float
    {
        rsort($tiles);
        $rest = 0.1 * array_sum(array_column($tiles, 1));
        foreach ($tiles as [$score, $weight]) {
            $rest -= $weight;
            if ($rest <= 0.0) {
                return $score;
            }
        }

        return null;
    }
}
