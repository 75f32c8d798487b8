<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * The whole treatment of one shot, as docs/recipe.md describes it. First file to read of this folder: the recipe is
 * made by {@see RecipeReader} and turned back by {@see RecipeWriter}; nothing here computes a pixel.
 */
final readonly class Recipe
{
    public const FORMAT = 'recipe/1';

    /**
     * @param array<string, array{sha256: string, kind: string}> $assets
     * @param list<Touch>                                        $base
     * @param list<Area>                                         $areas
     * @param list<Touch>                                        $finish
     */
    public function __construct(
        public Source $source,
        public array $assets = [],
        public array $base = [],
        public array $areas = [],
        public array $finish = [],
    ) {}

    /** @throws UnknownId */
    public function area(string $id): Area
    {
        foreach ($this->areas as $area) {
            if ($area->id === $id) {
                return $area;
            }
        }

        throw UnknownId::area($id);
    }

    /** @throws UnknownId */
    public function touch(string $id): Touch
    {
        foreach ([$this->base, ...array_map(static fn(Area $area): array => $area->touches, $this->areas), $this->finish] as $touches) {
            foreach ($touches as $touch) {
                if ($touch->id === $id) {
                    return $touch;
                }
            }
        }

        throw UnknownId::touch($id);
    }

    /** @return list<Touch> what an area does: its own touches, or those of the area it is linked to */
    public function touches(Area $area): array
    {
        return $area->pair?->linked ? $this->area($area->pair->with)->touches : $area->touches;
    }

    /** @return list<string> ids of the areas that an area rides on or is made of, directly */
    public function needs(Area $area): array
    {
        $others = [$area->motion->on];
        foreach ($area->outline->shapes as $shape) {
            $others[] = $shape instanceof AreaShape ? $shape->of : $shape->motion?->on;
        }

        return array_values(array_unique(array_filter($others, is_string(...))));
    }

    /**
     * The same with its areas changed.
     *
     * @param callable(Area): Area $change
     */
    public function withAreas(callable $change): self
    {
        return new self($this->source, $this->assets, $this->base, array_map($change, $this->areas), $this->finish);
    }

    /** The same with one of its areas put in the place of the one of that id. */
    public function withArea(Area $changed): self
    {
        return $this->withAreas(static fn(Area $area): Area => $area->id === $changed->id ? $changed : $area);
    }

    /** @param list<Touch> $base */
    public function withBase(array $base): self
    {
        return new self($this->source, $this->assets, $base, $this->areas, $this->finish);
    }

    /** @param list<Touch> $finish */
    public function withFinish(array $finish): self
    {
        return new self($this->source, $this->assets, $this->base, $this->areas, $finish);
    }

    /** @return list<string> sha256 of every track it needs */
    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->areas as $area) {
            foreach ([$area->motion, ...array_map(static fn(Shape $shape): ?Motion => $shape->motion, $area->outline->shapes)] as $motion) {
                if ($motion?->by === Motion::FOLLOW && $motion->track !== null) {
                    $tracks[] = $motion->track;
                }
            }
        }

        return array_values(array_unique($tracks));
    }
}
