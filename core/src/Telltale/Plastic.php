<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\Robust;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/**
 * Texture lost. Over the matte (more than .5), the robust spread of Oklab L less its Gaussian of 1/400 of the picture's
 * height (a pixel at least), over the mean of L, of the finished frame against the untreated: how much of it is gone, in
 * percent. Lightness goes with the cube root of light, so that exposure alone changes nothing here. Not for eyes, lips and
 * teeth, which are not skin, nor for covered spots, whose own texture is what has to go.
 */
final readonly class Plastic extends Telltale
{
    private const SIGMA = 1 / 400;
    private const FEW = 200;

    public function __construct()
    {
        parent::__construct('plastic', 'Pores and grain of the skin are gone.', unit: '%', limit: 30.0, most: 100.0, isFine: true);
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area?->is(Part::Face, Part::Skin, Part::Neck) === true;
    }

    public function look(Seen $seen): ?array
    {
        if (!Texture::isSeen($seen, self::FEW)) {
            return null;
        }
        $sigma = max(1.0, self::SIGMA * $seen->rows());
        $texture = static fn(array $l): float => Texture::spread($l, $seen, $sigma) / max(0.02, Robust::of($l, $seen->matte->v)[0]);

        return [round(100 * (1 - $texture($seen->result()->l) / max(1e-6, $texture($seen->untreated()->l))), 2)];
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return [Cure::lessOf('the smoothing', $finding, $recipe, 'even', 'blur') ?? Cure::weaker($finding, $recipe)];
    }
}
