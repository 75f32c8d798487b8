<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Faces\Crowds;
use App\Footage\FootageFile;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Recipe;

/** Footage with its recipe and all that this needs. */
final readonly class Scene
{
    /** @param array<string, Track> $tracks by sha256 */
    public function __construct(public FootageFile $footage, public Recipe $recipe, public array $tracks = []) {}

    public function motions(): Motions
    {
        return new Motions($this->recipe, $this->tracks, app(Crowds::class)->in($this->footage, $this->recipe));
    }
}
