<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Shot;
use App\Pictures\PictureCache;
use App\Pictures\ShotPictures;
use App\Pictures\View;
use App\Pictures\Wanted;
use App\Treatment\AssetFiles;
use App\Treatment\Recipes;
use App\Treatment\Renderers;
use Cossel\Core\Carry\AreaTones;
use Cossel\Core\Carry\Tones;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\OnFrame;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/** The face of a person in a shot as it is treated: a witness of it, and its skin in numbers, for comparing across the cut. */
final class SkinThroughCut
{
    public const SIZE = 168;

    public function __construct(private readonly Recipes $recipes, private readonly Renderers $renderers, private readonly AssetFiles $assets, private readonly Frames $frames, private readonly ShotPictures $pictures, private readonly PictureCache $cache) {}

    /** @return array{area: string, frame: int, tones: Tones|null}|null null where no face of theirs is outlined */
    public function of(Shot $shot, string $person): ?array
    {
        $recipe = $this->recipes->recipe($shot);
        $area = self::face($recipe, $person);
        if ($area === null) {
            return null;
        }
        $frame = self::frame($shot, $area);
        $kept = $this->cache->get(['skin', $shot->id, $area->id, $frame, OnFrame::digest($recipe, $frame)], function () use ($shot, $recipe, $area, $frame): string {
            $tones = new AreaTones($recipe, $this->renderers->motions($recipe), $this->frames->of($shot->readyFootage()->file(), [$frame]), $this->assets->of($recipe));

            return json_encode($tones->of($area)?->numbers(), JSON_THROW_ON_ERROR);
        });
        $numbers = json_decode($kept, true, flags: JSON_THROW_ON_ERROR);

        return ['area' => $area->id, 'frame' => $frame, 'tones' => $numbers === null ? null : Tones::ofNumbers($numbers)];
    }

    /** @return string|null JPEG */
    public function witness(Shot $shot, string $person): ?string
    {
        $area = self::face($this->recipes->recipe($shot), $person);
        if ($area === null) {
            return null;
        }
        foreach ($this->pictures->witnesses($shot, new Wanted(self::frame($shot, $area), View::Result, $area->id, self::SIZE), self::SIZE, [self::frame($shot, $area)]) as $jpeg) {
            return $jpeg;
        }

        return null;
    }

    private static function face(Recipe $recipe, string $person): ?Area
    {
        $own = array_filter($recipe->areas, static fn(Area $area): bool => $area->person === $person && $area->outline->shapes !== []);
        foreach ([Part::Face, Part::Skin] as $part) {
            foreach ($own as $area) {
                if ($area->is($part)) {
                    return $area;
                }
            }
        }

        return null;
    }

    /** Where it was outlined, which is where it is surely right. */
    private static function frame(Shot $shot, Area $area): int
    {
        return max($shot->from, min($shot->to, $area->outline->at));
    }
}
