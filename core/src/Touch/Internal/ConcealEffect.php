<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Smooth;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** A patch fitted to its place and laid over it. */
final readonly class ConcealEffect implements Effect
{
    /**
     * @param list<list<float>>         $membranes what is added to each channel of the patch, by blocks
     * @param list<array{float, float}> $unlike    centre and spread of what patch and place differ by on the ring, for each
     *                                             channel; only where there is a limit
     */
    public function __construct(private Patch $patch, private Blocks $blocks, private array $membranes, private array $unlike) {}

    public function needs(Rect $rect): Rect
    {
        return $this->patch->needs($rect);
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        $rect = $this->patch->compared($at)->intersect($this->patch->around);
        $less = $covers = $furthest = [];
        foreach (['r', 'g', 'b'] as $c => $channel) {
            $cover = Patch::seen($planes->{$channel}, $planes->rect, $rect, $this->patch->dx, $this->patch->dy);
            foreach ($this->blocks->over($this->membranes[$c], $rect) as $i => $m) {
                $cover[$i] += $this->patch->fit * $m;
            }
            if ($this->unlike !== []) {
                $furthest = self::furthest(
                    $furthest,
                    Patch::seen($planes->{$channel}, $planes->rect, $rect, 0.0, 0.0),
                    $cover,
                    $rect,
                    ...$this->unlike[$c],
                );
            }
            $covers[$channel] = $cover;
        }
        foreach ($furthest as $e) {
            $less[] = 1 - $this->patch->limit + $this->patch->limit * Smooth::step(1.5, 3.5, $e);
        }
        foreach ($covers as $channel => $cover) {
            self::blend($planes->{$channel}, $planes->rect, $cover, $rect, $weight, $less);
        }
    }

    /**
     * How far the softened picture is from the patch, in spreads of the ring, or what another channel said if that is more.
     *
     * @param list<float> $furthest
     * @param list<float> $here
     * @param list<float> $cover
     *
     * @return list<float>
     */
    private static function furthest(array $furthest, array $here, array $cover, Rect $rect, float $centre, float $spread): array
    {
        foreach ($cover as $i => $v) {
            $here[$i] -= $v;
        }
        foreach (Gaussian::values($here, $rect->width, $rect->height, Patch::SOFT) as $i => $v) {
            $furthest[$i] = max($furthest[$i] ?? 0.0, abs($v - $centre) / max(1e-4, $spread));
        }

        return $furthest;
    }

    /**
     * @param list<float> $v
     * @param list<float> $cover
     * @param list<float> $less  how much less it covers; none where it covers whole
     */
    private static function blend(array &$v, Rect $into, array $cover, Rect $from, Weight $weight, array $less): void
    {
        $at = $weight->rect();
        $start = ($at->y - $from->y) * $from->width + $at->x - $from->x;
        foreach ($at->rowsIn($into) as $j => $i) {
            for ($o = $start, $end = $i + $at->width; $i < $end; ++$i, ++$o, ++$j) {
                $k = ($weight->offset + $weight->scale * $weight->matte->v[$j]) * ($less[$o] ?? 1.0);
                if ($k !== 0.0) {
                    $v[$i] += ($cover[$o] - $v[$i]) * $k;
                }
            }
            $start += $from->width;
        }
    }
}
