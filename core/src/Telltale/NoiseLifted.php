<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;

/**
 * Noise brought up with the light. The robust spread of Oklab L less its Gaussian of 1/700 of the picture's height (.7 pixels
 * at least), over the matte (more than .5), of the finished frame over that of the untreated one.
 */
final readonly class NoiseLifted extends Telltale
{
    private const SIGMA = 1 / 700;
    private const FEW = 100;

    public function __construct()
    {
        parent::__construct(
            'noise lifted',
            'The noise in the area is stronger than it was.',
            unit: '×',
            limit: 1.55,
            most: 10.0,
            isFine: true,
        );
    }

    public function look(Seen $seen): ?array
    {
        if (!Texture::isSeen($seen, self::FEW)) {
            return null;
        }
        $sigma = max(0.7, self::SIGMA * $seen->rows());

        return [
            round(Texture::spread($seen->result()->l, $seen, $sigma) / max(1e-4, Texture::spread($seen->untreated()->l, $seen, $sigma)), 3),
        ];
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        $calmed = Cure::touches(
            'Calm the noise under its tone',
            $finding,
            $recipe,
            ['tone'],
            static fn(Touch $touch): Touch => $touch->changed('calm', static fn(float $v): float => max(0.004, $v)),
        );

        return [$calmed, Cure::weaker($finding, $recipe)];
    }
}
