<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Carry;
use App\Models\Shot;
use App\Models\Treatment as KeptTreatment;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Carry\Treatment;
use Cossel\Core\Carry\TreatmentFile;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;

/** Makes the proposal of a carry between two shots. */
final class Proposing
{
    public function __construct(private readonly Recipes $recipes, private readonly RecipeWriter $writer, private readonly Tracks $tracks, private readonly CarryOver $over, private readonly RecipeReader $reader) {}

    /**
     * @param callable(string): void $tell what is being done
     *
     * @return array<string, mixed> what the carry's row takes
     *
     * @throws CannotCarry
     */
    public function of(Carry $carry, callable $tell): array
    {
        $present = $this->recipes->present($carry->shot);
        $target = $this->recipes->read($carry->shot, $present->document());
        $tell('Looking at what it comes from');
        [$treatment, $from, $person] = $this->source($carry);
        $proposed = $this->over->proposed($treatment, $from, $this->scene($carry->shot, $target), $person, $carry->what['replace'], $tell);
        array_map($this->tracks->keep(...), array_values($proposed->tracks));

        return [
            'frame' => $proposed->frame,
            'revision' => $present->number,
            'recipe' => $this->writer->json($proposed->recipe),
            'words' => $proposed->words,
            'misses' => array_map(static fn(string $id, array $miss): array => [$proposed->recipe->area($id)->name, round($miss[0], 2), round($miss[1], 2)], array_keys($proposed->misses), $proposed->misses),
        ];
    }

    /** @return array{Treatment, Scene|null, string|null} what is carried, where from, and whose it becomes */
    private function source(Carry $carry): array
    {
        if ($carry->isKept()) {
            $kept = KeptTreatment::find($carry->what['treatment'] ?? 0) ?? throw new CannotCarry('The treatment is no longer kept.');

            return [TreatmentFile::read(json_decode($kept->recipe, true, flags: JSON_THROW_ON_ERROR), $this->reader), null, $carry->what['person'] ?? null];
        }
        $from = $this->scene($carry->source, $this->recipes->read($carry->source, $this->recipes->revision($carry->source, $carry->source_revision)->document()));
        $treatment = $this->over->treatment($from, $carry->what);

        return [$treatment, $from, $treatment->areas[0]->person ?? null];
    }

    private function scene(Shot $shot, Recipe $recipe): Scene
    {
        return new Scene($shot->readyFootage()->file(), $recipe, $this->tracks->of($recipe));
    }
}
