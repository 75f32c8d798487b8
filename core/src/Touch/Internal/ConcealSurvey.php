<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Survey;

/** What place and patch differ by on the ring round a spot, and the membrane that carries it on inside. */
final readonly class ConcealSurvey implements Survey
{
    private const OUTSIDE = 0.02;
    /** Sigma, in widths of the ring, of what light is told from grain by on it. */
    private const NEAR = 0.35;
    private const MOST = 1_000_000;

    /** @param int $ring its width in pixels */
    public function __construct(private Patch $patch, private int $ring) {}

    public function sees(): Rect
    {
        return $this->patch->around->union($this->patch->around->moved($this->patch->dx, $this->patch->dy));
    }

    public function block(): int
    {
        return max(1, (int) ceil(sqrt($this->patch->around->count() / self::MOST)));
    }

    public function needs(Rect $rect): Rect
    {
        return $this->patch->needs($rect);
    }

    public function effect(AreaPicture $picture): Effect
    {
        $rect = $picture->blocks->holding($this->patch->around);
        $side = $picture->blocks->side;
        $free = $picture->matte->window($rect)->v;
        foreach ($free as $i => $m) {
            $free[$i] = $m < self::OUTSIDE ? 1.0 : 0.0;
        }
        $membrane = new Membrane($free, $rect->width, $rect->height);
        $near = $this->patch->limit > 0.0
            ? Normalised::over($free, $rect->width, $rect->height, max(1.0, self::NEAR * $this->ring / $side))
            : null;
        $membranes = $unlike = [];
        foreach (['r', 'g', 'b'] as $channel) {
            $here = Patch::seen($picture->planes->{$channel}, $picture->planes->rect, $rect, 0.0, 0.0);
            $there = Patch::seen(
                $picture->planes->{$channel},
                $picture->planes->rect,
                $rect,
                $this->patch->dx / $side,
                $this->patch->dy / $side,
            );
            foreach ($there as $i => $v) {
                $here[$i] -= $v;
            }
            $m = $membranes[] = $membrane->over($here);
            if ($near !== null) {
                // On the ring patch and place are alike but for what is finer than that.
                $smooth = $near->blur($here);
                foreach ($m as $i => $v) {
                    $here[$i] -= $this->patch->fit * ($free[$i] > 0.0 ? $smooth[$i] : $v);
                }
                $unlike[] = Robust::of(Gaussian::values($here, $rect->width, $rect->height, Patch::SOFT), $free);
            }
        }

        return new ConcealEffect($this->patch, $picture->blocks->some($rect), $membranes, $unlike);
    }
}
