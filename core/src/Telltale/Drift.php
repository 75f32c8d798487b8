<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\Luma;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\MotionKey;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/**
 * Sliding off: how far what is under the area has moved against it since the frame its outline stands on, in percent of
 * the area's longer side. The untreated luma round the area is held still along the motion, over its relief where it has
 * one, in 24 x 24 cells, and what is coarser than five cells taken off. From the outline's frame outwards, each frame is
 * laid on the one before it by the shift that makes them most alike (normalised cross-correlation, what lies towards the
 * middle counting more; to a fraction of a cell by parabolas). The sum of these shifts foretells where the outline's frame
 * itself is found again, within a cell and a half; where it is alike there (.6 or more), that place is taken instead of
 * the sum, so that small errors do not add up. Where neighbours are unlike (under .45) and it is not found either, as
 * under a cover, nothing is said of the frame, nor where the lids over it are less than half open. An area that rides on
 * another without corrections slides as that one does and is left to it, if that one is treated. Eyes and mouths, and what is
 * followed as such, change their look by themselves: half of it counts there.
 */
final readonly class Drift extends Telltale
{
    private const CELLS = 24;
    private const ROOM = 1.1;
    /** In picture heights: small things are seen with what is round them. */
    private const LEAST = 0.12;
    private const NONE = 1e9;
    /** Cells on either side of one that what is coarse is told by. */
    private const COARSE = 2;
    private const REACH = 7;
    private const NEAR = 1.5;
    private const ALIKE = 0.45;
    private const FOUND = 0.6;
    /** How much less a shift counts for each cell of it: where nothing stands out, nothing has moved. */
    private const REST = 0.01;

    public function __construct()
    {
        $sentence = 'The area slides off what it was put on.';
        parent::__construct('drift', $sentence, unit: '% of its size', limit: 6.0, most: 40.0, isLocal: false);
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        if ($area === null || $area->motion->by !== Motion::RIDE || $area->motion->on === null || $area->motion->keys !== []) {
            return $area !== null;
        }

        return $recipe->touches($recipe->area($area->motion->on)) === [];
    }

    public function look(Seen $seen): ?array
    {
        if (!$seen->isTreated() || $seen->extent === null || ($seen->openness ?? 1.0) < 0.5) {
            return null;
        }
        $still = Still::round($seen->extent, $seen->rows(), self::CELLS, self::ROOM, self::LEAST, $seen->surface);
        $rect = $still->rect($seen->frame->format->rect());
        if ($rect->isEmpty()) {
            return null;
        }
        $cells = $still->means(Luma::of($seen->frame->window($rect), $rect)->v, array_fill(0, $rect->count(), 1.0), $rect, 1.0);
        $share = self::CELLS / (self::ROOM * max(
            1.0,
            self::LEAST / (2 * self::ROOM * max($seen->extent->halfWidth, $seen->extent->halfHeight) * $seen->extent->scale()),
        ));

        return [round($share, 3), ...array_map(static fn(float $v): float => is_nan($v) ? -1.0 : round($v, 3), $cells)];
    }

    public function measures(array $looks, Recipe $recipe, ?Area $area): array
    {
        $own = $area === null ? [] : $looks[$area->id] ?? [];
        if ($own === []) {
            return [];
        }
        $start = self::nearest(array_keys($own), $area->outline->at);
        $cells = array_map(static fn(array $look): array => self::fine(array_slice($look, 1)), $own);
        $measures = [$start => 0.0];
        foreach ([1, -1] as $way) {
            [$last, $x, $y] = [$start, 0.0, 0.0];
            foreach (self::onwards(array_keys($cells), $start, $way) as $frame) {
                $step = self::shift($cells[$last], $cells[$frame], 0.0, 0.0, self::REACH);
                $known = $step[2] >= self::ALIKE;
                if ($known) {
                    [$x, $y] = [$x + $step[0], $y + $step[1]];
                }
                $found = self::shift($cells[$start], $cells[$frame], $x, $y, $known ? self::NEAR : self::REACH);
                if ($found[2] >= self::FOUND) {
                    [$x, $y] = $found;
                } elseif (!$known) {
                    continue;
                }
                $last = $frame;
                $measures[$frame] = 100 * hypot($x, $y) / $own[$frame][0];
            }
        }
        ksort($measures);
        $counts = $area !== null && self::changesByItself($area) ? 0.5 : 1.0;

        return array_map(static fn(float $v): float => $counts * $v, $measures);
    }

    private static function changesByItself(Area $area): bool
    {
        $isSo = $area->is(Part::Iris, Part::Eye, Part::Lids, Part::Whites, Part::Lips, Part::Teeth);

        return $isSo || in_array($area->motion->model, [Model::Iris, Model::Outline], true);
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return $finding->area === null
            ? []
            : [self::uncorrected($finding, $finding->area, $recipe) ?? self::followed($finding, $finding->area)];
    }

    private static function uncorrected(Finding $finding, Area $area, Recipe $recipe): ?Cure
    {
        $isBad = static fn(MotionKey $key): bool => ($finding->measures[$key->frame] ?? 0.0) > $finding->limit;
        $bad = array_map(static fn(MotionKey $key): int => $key->frame, array_filter($area->motion->keys, $isBad));
        $kept = array_values(array_filter($area->motion->keys, static fn(MotionKey $key): bool => !$isBad($key)));

        return $bad === [] ? null : Cure::byRecipe(
            'Take out the correction on frame ' . implode(', ', $bad),
            $recipe->withArea($area->withMotion($area->motion->withKeys($kept))),
        );
    }

    private static function followed(Finding $finding, Area $area): ?Cure
    {
        if ($area->motion->by === Motion::RIDE) {
            return null;
        }
        $from = $at = $area->outline->at;
        $worst = $finding->worst();
        // The last good frame on the way from the outline's frame to the worst one.
        foreach ($finding->measures as $frame => $measure) {
            $between = $worst > $at ? $frame >= $at && $frame < $worst : $frame <= $at && $frame > $worst;
            if ($between && $measure < $finding->limit / 2 && abs($frame - $at) > abs($from - $at)) {
                $from = $frame;
            }
        }

        return Cure::byFollowing($from);
    }

    /** @param list<int> $frames */
    private static function nearest(array $frames, int $to): int
    {
        usort($frames, static fn(int $a, int $b): int => abs($a - $to) <=> abs($b - $to));

        return $frames[0];
    }

    /**
     * @param list<int> $frames
     *
     * @return list<int> those after it, or before it, from it onwards
     */
    private static function onwards(array $frames, int $from, int $way): array
    {
        $onwards = array_filter($frames, static fn(int $frame): bool => ($frame - $from) * $way > 0);
        usort($onwards, static fn(int $a, int $b): int => ($a - $b) * $way);

        return $onwards;
    }

    /**
     * Cells less the mean of those round them; NONE where there is none.
     *
     * @param list<float> $cells
     *
     * @return list<float>
     */
    private static function fine(array $cells): array
    {
        $n = self::CELLS;
        $out = array_fill(0, $n * $n, self::NONE);
        for ($y = 0; $y < $n; ++$y) {
            for ($x = 0; $x < $n; ++$x) {
                if ($cells[$y * $n + $x] < 0.0) {
                    continue;
                }
                $sum = $of = 0.0;
                for ($v = max(0, $y - self::COARSE); $v <= min($n - 1, $y + self::COARSE); ++$v) {
                    for ($u = max(0, $x - self::COARSE); $u <= min($n - 1, $x + self::COARSE); ++$u) {
                        if ($cells[$v * $n + $u] >= 0.0) {
                            $sum += $cells[$v * $n + $u];
                            ++$of;
                        }
                    }
                }
                $out[$y * $n + $x] = $cells[$y * $n + $x] - $sum / $of;
            }
        }

        return $out;
    }

    /**
     * The shift near this one that lays the second on the first best.
     *
     * @param list<float> $a
     * @param list<float> $b
     *
     * @return array{float, float, float} in cells, and how alike they are then
     */
    private static function shift(array $a, array $b, float $nearX, float $nearY, float $reach): array
    {
        $alike = [];
        $best = null;
        for ($dy = (int) ceil($nearY - $reach); $dy <= $nearY + $reach; ++$dy) {
            for ($dx = (int) ceil($nearX - $reach); $dx <= $nearX + $reach; ++$dx) {
                $alike[$dy][$dx] = self::alike($a, $b, $dx, $dy) - self::REST * hypot($dx - $nearX, $dy - $nearY);
                if ($best === null || $alike[$dy][$dx] > $alike[$best[1]][$best[0]]) {
                    $best = [$dx, $dy];
                }
            }
        }
        [$dx, $dy] = $best ?? [0, 0];
        $most = $alike[$dy][$dx];
        $between = static function (?float $less, ?float $more) use ($most): float {
            $bend = $less === null || $more === null ? 0.0 : $less - 2 * $most + $more;

            return $bend < 0.0 ? max(-0.5, min(0.5, 0.5 * ($less - $more) / $bend)) : 0.0;
        };

        return [
            $dx + $between($alike[$dy][$dx - 1] ?? null, $alike[$dy][$dx + 1] ?? null),
            $dy + $between($alike[$dy - 1][$dx] ?? null, $alike[$dy + 1][$dx] ?? null),
            $most,
        ];
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function alike(array $a, array $b, int $dx, int $dy): float
    {
        $n = self::CELLS;
        $weights = self::weights();
        $ab = $aa = $bb = 1e-12;
        for ($y = max(0, -$dy), $bottom = min($n, $n - $dy); $y < $bottom; ++$y) {
            $x = max(0, -$dx);
            $j = ($y + $dy) * $n + $x + $dx;
            for ($i = $y * $n + $x, $end = $i + min($n, $n - $dx) - $x; $i < $end; ++$i, ++$j) {
                $p = $a[$i];
                $q = $b[$j];
                if ($p < self::NONE && $q < self::NONE) {
                    $k = $weights[$i];
                    $ab += $k * $p * $q;
                    $aa += $k * $p * $p;
                    $bb += $k * $q * $q;
                }
            }
        }

        return $ab / sqrt($aa * $bb);
    }

    /** @return list<float> a Gaussian, a third half way to the edge: shading at the rim goes with the light, not the skin */
    private static function weights(): array
    {
        static $weights;
        if ($weights === null) {
            for ($i = 0; $i < self::CELLS * self::CELLS; ++$i) {
                $x = ($i % self::CELLS + 0.5) / self::CELLS * 2 - 1;
                $y = (intdiv($i, self::CELLS) + 0.5) / self::CELLS * 2 - 1;
                $weights[] = exp(-4 * ($x * $x + $y * $y));
            }
        }

        return $weights;
    }
}
