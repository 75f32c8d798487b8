<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Judging\Ticks;
use App\Models\Revision;
use App\Models\Shot;
use App\Treatment\Recipes;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * The recipe a shot has, where it stands in its history, and which of its areas somebody has judged.
 *
 * @mixin Shot
 */
final class RecipeResource extends JsonResource
{
    public function __construct(Shot $shot, private readonly Revision $revision)
    {
        parent::__construct($shot);
    }

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $recipes = app(Recipes::class);
        $redo = $recipes->child($this->resource);

        return [
            'revision' => $this->revision->number,
            'parent' => $this->revision->parent,
            'undo' => $this->revision->parent === null ? null : $this->revision->label,
            'redo' => $redo === null ? null : $recipes->label($this->resource, $redo),
            'judged' => app(Ticks::class)->holding($this->resource, $recipes->recipe($this->resource)),
            'recipe' => json_decode($this->revision->recipe),
        ];
    }
}
