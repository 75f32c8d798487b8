<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Shot;
use App\Treatment\AssetFiles;
use App\Treatment\FreshIds;
use App\Treatment\Recipes;
use App\Treatment\Renderers;
use Cossel\Core\Carry\Alike;
use Cossel\Core\Carry\AreaTones;
use Cossel\Core\Carry\Matched;
use Cossel\Core\Carry\Matching;
use Cossel\Core\Carry\Tones;
use Cossel\Core\Judge\Vectorscope;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;

/** A shot beside another: the same parts of the same people in numbers and on the vectorscope, and what brings one to the other. */
final class AnotherShot
{
    private const SIZE = 96;
    /** Skin, lips and whites lie in the middle of the scope. */
    private const ZOOM = 2.0;

    public function __construct(private readonly Recipes $recipes, private readonly Renderers $renderers, private readonly AssetFiles $assets, private readonly Frames $frames, private readonly RecipeWriter $writer) {}

    /**
     * On a frame of each.
     *
     * @param Recipe $here as it is on screen
     *
     * @return list<array{area: string, name: string, other: string, here: array<string, mixed>, there: array<string, mixed>, apart: float}> Oklab
     *                                                                                                                                       L, a, b and contrast, lights less shadows, with the counts of a vectorscope
     */
    public function compared(Shot $shot, Recipe $here, int $frame, Shot $other, int $otherFrame): array
    {
        $there = $this->recipes->recipe($other);
        $mine = $this->frames->of($shot->readyFootage()->file(), [$frame]);
        $theirs = $this->frames->of($other->readyFootage()->file(), [$otherFrame]);
        $all = [];
        foreach (Alike::pairs($here, $there) as [$area, $like]) {
            [$a, $b] = [$this->tones($here, $mine)->of($area), $this->tones($there, $theirs)->of($like)];
            if ($a !== null && $b !== null) {
                $all[] = [
                    'area' => $area->id,
                    'name' => $area->name,
                    'other' => $like->id,
                    'here' => [...self::numbers($a), 'cloud' => $this->cloud($here, $area, $frame, $mine[$frame])],
                    'there' => [...self::numbers($b), 'cloud' => $this->cloud($there, $like, $otherFrame, $theirs[$otherFrame])],
                    'apart' => round($a->apart($b), 2),
                ];
            }
        }

        return $all;
    }

    /**
     * The recipe with trims that make areas look on one frame as in the other shot on another: of each area, or of the base by the look of one
     * of them.
     *
     * @param list<string> $areas ids
     *
     * @throws CannotCarry
     */
    public function matched(Shot $shot, Recipe $here, int $frame, Shot $other, int $otherFrame, array $areas, bool $byBase): Matched
    {
        $there = $this->recipes->recipe($other);
        $theirs = $this->tones($there, $this->frames->of($other->readyFootage()->file(), [$otherFrame]));
        $wanted = [];
        foreach (Alike::pairs($here, $there) as [$area, $like]) {
            if (in_array($area->id, $areas, true)) {
                $wanted[$area->id] = $theirs->of($like);
            }
        }
        $wanted = array_filter($wanted);
        if ($wanted === []) {
            throw new CannotCarry('None of these areas has its like in the other shot.');
        }
        $ids = new FreshIds($this->writer->json($here));
        $frames = $this->frames->of($shot->readyFootage()->file(), [$frame]);
        $matching = new Matching($this->renderers->motions($here), $frames, $ids->of(...), $this->assets->of($here));
        $first = array_key_first($wanted);

        return $byBase ? $matching->base($here, $first, $wanted[$first]) : $matching->matched($here, $wanted);
    }

    /** @param array<int, Frame> $frames by number */
    private function tones(Recipe $recipe, array $frames): AreaTones
    {
        return new AreaTones($recipe, $this->renderers->motions($recipe), $frames, $this->assets->of($recipe));
    }

    /** @return array{mean: list<float>, contrast: float} */
    private static function numbers(Tones $tones): array
    {
        return ['mean' => array_map(static fn(float $v): float => round($v, 4), $tones->mean), 'contrast' => round($tones->lights[0] - $tones->shadows[0], 4)];
    }

    /** @return list<int> counts of a vectorscope, row by row */
    private function cloud(Recipe $recipe, Area $area, int $number, Frame $frame): array
    {
        $renderer = $this->renderers->of($recipe);
        $rect = AreaMatte::on($area, $number, $this->renderers->motions($recipe), $frame->format->rect())->bounds();
        $matte = $renderer->matte($frame, $area, $number, $rect);
        $scope = new Vectorscope(self::SIZE, self::ZOOM);
        foreach ($renderer->bands($frame, $number, $rect) as $planes) {
            $scope->add($planes, $matte);
        }

        return $scope->counts();
    }
}
