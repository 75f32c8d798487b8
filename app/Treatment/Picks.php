<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Footage\FootageFile;
use App\Pictures\Readings;
use Cossel\Core\Pick\Ranges;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Pick;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Sample;

/** Picks proposed from samples of the picture. */
final class Picks
{
    private const MOST = 64;

    public function __construct(private readonly Readings $readings) {}

    /**
     * An area's pick with a sample added (from, to, and whether it is taken or left), or with its ranges following the light
     * or not.
     *
     * @param array{array{float, float}, array{float, float}, bool}|null $sample
     *
     * @throws TooManySamples
     */
    public function proposed(FootageFile $footage, Recipe $recipe, int $frame, Area $area, ?array $sample, bool $follows): Pick
    {
        $pick = $area->pick ?? new Pick();
        $samples = $sample === null ? $pick->samples : [...$pick->samples, ...$this->readings->samples($footage, $recipe, $frame, $area, ...$sample)];
        if (count($samples) > self::MOST) {
            throw TooManySamples::limit(self::MOST);
        }
        $light = $follows ? $pick->follow ?? round($this->readings->meanLight($footage, $recipe, $frame, $area), 4) : null;

        return $sample === null
            ? $pick->withRanges($samples, $pick->hue, $pick->chroma, $pick->light, $light)
            : Ranges::proposed($pick, $samples, $footage->info->format()->transfer, $light, $light === null ? [] : $this->lights($footage, $recipe, $area, $samples));
    }

    /**
     * @param list<Sample> $samples
     *
     * @return array<int, float> mean lightness of the area on the frames they were taken on
     */
    private function lights(FootageFile $footage, Recipe $recipe, Area $area, array $samples): array
    {
        $frames = array_unique(array_map(static fn(Sample $sample): int => $sample->frame, $samples));

        return array_combine($frames, array_map(fn(int $frame): float => $this->readings->meanLight($footage, $recipe, $frame, $area), $frames));
    }
}
