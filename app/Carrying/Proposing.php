<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Carry;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;

/** Makes the proposal of a carry between two shots. */
final class Proposing
{
    public function __construct(private readonly Recipes $recipes, private readonly RecipeWriter $writer, private readonly Tracks $tracks, private readonly CarryOver $over) {}

    /**
     * @param callable(string): void $tell what is being done
     *
     * @return array<string, mixed> what the carry's row takes
     *
     * @throws CannotCarry
     */
    public function of(Carry $carry, callable $tell): array
    {
        $source = $this->recipes->read($carry->source, $this->recipes->revision($carry->source, $carry->source_revision)->document());
        $present = $this->recipes->present($carry->shot);
        $target = $this->recipes->read($carry->shot, $present->document());
        $proposed = $this->over->proposed($this->scene($carry->source, $source), $this->scene($carry->shot, $target), $carry->what, $tell);
        array_map($this->tracks->keep(...), array_values($proposed->tracks));

        return [
            'frame' => $proposed->frame,
            'revision' => $present->number,
            'recipe' => $this->writer->json($proposed->recipe),
            'words' => $proposed->words,
            'misses' => array_map(static fn(string $id, array $miss): array => [$proposed->recipe->area($id)->name, round($miss[0], 2), round($miss[1], 2)], array_keys($proposed->misses), $proposed->misses),
        ];
    }

    private function scene(Shot $shot, Recipe $recipe): Scene
    {
        return new Scene($shot->readyFootage()->file(), $recipe, $this->tracks->of($recipe));
    }
}
