<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;

/** How strong and how fine an area's grain is in the untreated frame. */
final readonly class GrainSurvey extends ColourSurvey
{
    private const LEVEL_RANGE = 0.15;
    private const ENOUGH = 150;
    private const SEEN = 25_000;
    /** Pixels the grain itself is measured on at most, in bands of so many rows all over the area. */
    private const MOST = 120_000;
    private const BAND = 32;

    public function __construct(private float $level, Site $site)
    {
        parent::__construct($site);
    }

    /** Only how light it is on the whole is asked for. */
    public function block(): int
    {
        return max(1, (int) sqrt($this->sees()->count() / self::SEEN));
    }

    public function needs(Rect $rect): Rect
    {
        return GrainEffect::around($rect, $this->near());
    }

    public function effect(AreaPicture $picture): Effect
    {
        [$mean] = Robust::of(Luma::of($picture->planes, $picture->planes->rect)->v, $picture->matte->v);
        [$spread, $likeness] = $this->measured($mean);

        return new GrainEffect(
            GrainTile::like($likeness),
            GrainTile::place($this->site->number),
            ($this->level * $spread) ** 2,
            $this->site->bounds()->grow(Gaussian::reach(GrainTile::SOFT))->intersect($this->site->untreated->format->rect()),
            $this->near(),
        );
    }

    /** Sigma in pixels of the neighbourhood in which what grain there is is measured: in a small area, not what lies round it. */
    private function near(): float
    {
        return max(5.0, min(0.015, 0.5 * $this->site->extent()->radius()) * $this->site->rows());
    }

    /**
     * Spread of the untreated grain there, and how alike neighbours in a row are.
     *
     * @return array{float, float}
     */
    private function measured(float $mean): array
    {
        $around = max(8, (int) ceil(0.25 * $this->site->extent()->width() * $this->site->rows()));
        $rect = $this->site->bounds()->grow($around)->intersect($this->site->untreated->format->rect());
        $grain = $near = [];
        foreach (self::bands($rect) as $band) {
            $luma = $this->site->untreated->luma($band);
            foreach (GrainTile::grain($luma) as $i => $v) {
                $grain[] = $v;
                $near[] = abs($luma->v[$i] - $mean) < self::LEVEL_RANGE ? 1.0 : 0.0;
            }
        }
        $counted = array_sum($near) >= self::ENOUGH ? $near : array_fill(0, count($near), 1.0);
        [, $spread] = Robust::of($grain, $counted);
        $square = $beside = 0.0;
        $limit = 3 * $spread;
        for ($i = 0, $n = count($grain) - 1; $i < $n; ++$i) {
            if ($counted[$i] > 0.0 && $counted[$i + 1] > 0.0 && abs($grain[$i]) < $limit && abs($grain[$i + 1]) < $limit) {
                $square += $grain[$i] * $grain[$i];
                $beside += $grain[$i] * $grain[$i + 1];
            }
        }

        return [$spread, $square > 0.0 ? $beside / $square : 0.0];
    }

    /** @return list<Rect> */
    private static function bands(Rect $rect): array
    {
        if ($rect->count() <= self::MOST) {
            return [$rect];
        }
        $every = (int) ceil($rect->count() / self::MOST);

        return array_values(array_filter($rect->bands(self::BAND), static fn(int $i): bool => $i % $every === 0, \ARRAY_FILTER_USE_KEY));
    }
}
