<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Models\Shot;
use App\Treatment\Recipes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\OnFrame;
use Cossel\Core\Recipe\Recipe;

/**
 * Pictures of shots, kept once they are made. Those of a recipe that is not saved yet (while a control is being dragged)
 * are not worth keeping.
 */
final class ShotPictures
{
    private const POSTER_HEIGHT = 180;

    public function __construct(private readonly BenchPictures $pictures, private readonly PictureCache $cache, private readonly Recipes $recipes) {}

    public function picture(Shot $shot, Wanted $wanted): Picture
    {
        foreach ($this->run($shot, $wanted, [$wanted->frame]) as $picture) {
            return $picture;
        }

        throw new \LogicException('There is one of one frame.');
    }

    /**
     * The same of several frames, one after the other.
     *
     * @param list<int> $frames
     *
     * @return \Generator<int, Picture> by frame
     */
    public function run(Shot $shot, Wanted $wanted, array $frames): \Generator
    {
        $recipe = $this->recipe($shot, $wanted->revision, $wanted->unsaved);
        $standing = $wanted->standing === null ? null : $this->recipe($shot, $wanted->standing);
        $showing = $this->pictures->showing($shot->readyFootage()->file(), $recipe, $wanted, $standing);
        foreach ($frames as $frame) {
            $make = static fn(): string => self::packed($showing->picture($frame));
            if ($wanted->unsaved !== null) {
                yield $frame => self::unpacked($make());
                continue;
            }
            $of = $this->key($shot, $wanted, $frame, $recipe, $standing);
            $full = $wanted->full === null ? null : $this->cache->known([...$of, ...$wanted->key($wanted->full)]);
            yield $frame => $full === null ? self::unpacked($this->cache->get([...$of, ...$wanted->key()], $make)) : self::unpacked($full, true);
        }
    }

    /**
     * Witnesses of an area on several frames, one after the other.
     *
     * @param list<int> $frames
     *
     * @return \Generator<int, string> JPEG by frame
     */
    public function witnesses(Shot $shot, Wanted $wanted, int $width, array $frames): \Generator
    {
        $recipe = $this->recipe($shot, $wanted->revision, $wanted->unsaved);
        $make = $this->pictures->witnesses($shot->readyFootage()->file(), $recipe, $wanted->view, $recipe->area($wanted->area ?? ''), $width, $wanted->height);
        foreach ($frames as $frame) {
            $made = static fn(): string => $make($frame);
            yield $frame => $wanted->unsaved === null ? $this->cache->get(['witness', $shot->id, $wanted->revision ?? $shot->revision, $width, $frame, ...$wanted->key()], $made) : $made();
        }
    }

    /** The shot as it is now, or untreated, small, for lists. */
    public function poster(Shot $shot, View $view): string
    {
        return $this->picture($shot, new Wanted(intdiv($shot->from + $shot->to, 2), $view, null, self::POSTER_HEIGHT))->jpeg;
    }

    /**
     * What a picture depends on besides how it is looked at: what acts on its frame, so that it is made again only where an edit is to be seen. Views of
     * an area's matte depend on more: on the whole revision.
     *
     * @return list<mixed>
     */
    private function key(Shot $shot, Wanted $wanted, int $frame, Recipe $recipe, ?Recipe $standing): array
    {
        if ($wanted->view->showsMatte()) {
            return [$shot->id, $wanted->revision ?? $shot->revision, $wanted->standing, $frame];
        }
        $area = $wanted->area === null ? null : $recipe->area($wanted->area);
        $acting = static fn(?Recipe $of): ?string => $of === null ? null : OnFrame::digest(BenchPictures::shown($of, $wanted->view, $area), $frame);

        return [$shot->id, $acting($recipe), $acting($standing), $frame];
    }

    private function recipe(Shot $shot, ?int $revision, mixed $unsaved = null): Recipe
    {
        return $revision === null
            ? $this->recipes->shown($shot, $unsaved)
            : $this->recipes->read($shot, $this->recipes->revision($shot, $revision)->document());
    }

    private static function packed(Picture $picture): string
    {
        return $picture->place() . "\n" . $picture->jpeg;
    }

    private static function unpacked(string $packed, bool $full = false): Picture
    {
        [$place, $jpeg] = explode("\n", $packed, 2);
        [$x, $y, $width, $height, $wholeWidth, $wholeHeight] = array_map(intval(...), explode(' ', $place));

        return new Picture($jpeg, Rect::of($x, $y, $width, $height), Rect::of(0, 0, $wholeWidth, $wholeHeight), $full);
    }
}
