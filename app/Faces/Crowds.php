<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FootageFile;
use App\Models\Footage;
use Cossel\Core\Face\Crowd;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Recipe;

/** The people that recipes have to do with. */
final class Crowds
{
    public function __construct(private readonly Faces $faces) {}

    /** Those of the footage a recipe is for; null where it has to do with none. */
    public function of(Recipe $recipe): ?Crowd
    {
        $footage = self::isMeant($recipe) ? Footage::where('sha256', $recipe->source->sha256)->first() : null;

        return $footage === null ? null : $this->in($footage->file(), $recipe);
    }

    public function in(FootageFile $footage, Recipe $recipe): Crowd
    {
        return new Crowd(new PeopleOfFootage($this->faces, $footage, $recipe->source->span));
    }

    /**
     * Measures ahead of rendering those a recipe has to do with.
     *
     * @throws CannotFindFaces
     */
    public function prepare(Recipe $recipe, FootageFile $footage, int $from, int $to): void
    {
        self::isMeant($recipe) && $this->faces->through($footage, min($from, $recipe->source->span[0]), min($footage->info->frames() - 1, max($to, $recipe->source->span[1])));
    }

    private static function isMeant(Recipe $recipe): bool
    {
        foreach ($recipe->areas as $area) {
            foreach ($area->outline->shapes as $shape) {
                if ($shape instanceof People) {
                    return true;
                }
            }
        }

        return false;
    }
}
