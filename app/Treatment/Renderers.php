<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Faces\Crowds;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Render\FrameRenderer;

/** Renderers of recipes, with the tracks and files these name and the people they have to do with. */
final class Renderers
{
    public function __construct(private readonly Tracks $tracks, private readonly AssetFiles $assets, private readonly Crowds $crowds) {}

    public function of(Recipe $recipe): FrameRenderer
    {
        return new FrameRenderer($recipe, $this->motions($recipe), $this->assets->of($recipe));
    }

    public function motions(Recipe $recipe): Motions
    {
        return new Motions($recipe, $this->tracks->of($recipe), $this->crowds->of($recipe));
    }
}
