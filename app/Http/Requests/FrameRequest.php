<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Treatment\Recipes;
use Cossel\Core\Recipe\Recipe;

/** Asks something about one frame of a shot, with its recipe or with one that is not saved yet. */
class FrameRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['frame' => $this->ofSpan()];
    }

    public function frame(): int
    {
        return (int) $this->validated('frame');
    }

    /** @return mixed the whole document, null for the recipe as it is saved */
    public function unsaved(): mixed
    {
        return $this->json('recipe');
    }

    public function recipe(Recipes $recipes): Recipe
    {
        return $recipes->shown($this->shot(), $this->unsaved());
    }
}
