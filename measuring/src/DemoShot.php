<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FootageFile;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;

/** A finished demo shot, as it lies in the demo's folders. */
final readonly class DemoShot
{
    /**
     * @param array<string, mixed> $document its recipe
     * @param array<string, Track> $tracks   by sha256
     */
    public function __construct(public FootageFile $footage, public array $document, public array $tracks, private RecipeReader $reader) {}

    /** @param (callable(array<string, mixed>): array<string, mixed>)|null $change of its recipe */
    public function recipe(?callable $change = null): Recipe
    {
        return $this->reader->read($change === null ? $this->document : $change($this->document));
    }

    public function motions(Recipe $recipe): Motions
    {
        return new Motions($recipe, $this->tracks);
    }
}
