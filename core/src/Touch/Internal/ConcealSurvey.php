<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Survey;

/**
 * What place and patch differ by on the ring round a spot, carried on inside, less what the patch's own light strays by.
 */
final readonly class ConcealSurvey implements Survey
{
    private const OUTSIDE = 0.02;
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
        $clear = self::free($seen($picture->matte->v, $dx, $dy));
        $compared = array_map(min(...), $free, $clear);
        $lighting = new Lighting($free, $compared, $rect->width, $rect->height, $this->ring / $side);
        $strays = new Stray($free, $clear, $rect, $this->ring / $side);
        $membranes = $unlike = [];
        foreach (['r', 'g', 'b'] as $channel) {
            $values = $picture->planes->{$channel};
            $patch = $seen($values, $dx, $dy);
            $apart = self::minus($seen($values, 0.0, 0.0), $patch);
            $m = $lighting->of($apart);
            $membranes[] = self::minus($m, $strays->of($patch, $apart, $compared));
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
