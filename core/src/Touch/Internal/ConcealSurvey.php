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

/**
 * What place and patch differ by on the ring round a spot, without their grain, and the membrane that carries it on inside.
 * Grain is what a Gaussian takes away from what a smooth trend leaves: a Gaussian alone would look to one side only at the
 * rim, and bend slopes there.
 */
final readonly class ConcealSurvey implements Survey
{
    private const OUTSIDE = 0.02;
    /** Sigma, in widths of the ring, of what light is told from grain by on it. */
    private const NEAR = 0.7;
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
        [$dx, $dy] = [$this->patch->dx / $side, $this->patch->dy / $side];
        $seen = static fn(array $v, float $x, float $y): array => Patch::seen($v, $picture->planes->rect, $rect, $x, $y);
        $free = self::free($seen($picture->matte->v, 0.0, 0.0));
        // Where the patch lies over the spot itself, nothing can be compared.
        $compared = self::free(array_map(max(...), $seen($picture->matte->v, 0.0, 0.0), $seen($picture->matte->v, $dx, $dy)));
        $near = Normalised::over($compared, $rect->width, $rect->height, max(1.0, self::NEAR * $this->ring / $side));
        $trend = new Trend($compared, $rect->width, $rect->height);
        $membrane = new Membrane($free, $rect->width, $rect->height);
        $membranes = $unlike = [];
        foreach (['r', 'g', 'b'] as $channel) {
            $values = $picture->planes->{$channel};
            $apart = self::minus($seen($values, 0.0, 0.0), $seen($values, $dx, $dy));
            $smooth = $trend->of($apart);
            foreach ($near->blur(self::minus($apart, $smooth)) as $i => $v) {
                $smooth[$i] += $v;
            }
            $membranes[] = $m = $membrane->over($smooth);
            if ($this->patch->limit > 0.0) {
                foreach ($m as $i => $v) {
                    $apart[$i] -= $this->patch->fit * $v;
                }
                $unlike[] = Robust::of(Gaussian::values($apart, $rect->width, $rect->height, Patch::SOFT), $compared);
            }
        }

        return new ConcealEffect($this->patch, $picture->blocks->some($rect), $membranes, $unlike);
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
}
