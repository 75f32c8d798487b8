<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Turns a {@see Recipe} into the document that {@see RecipeReader} reads; every field is written out. */
final class RecipeWriter
{
    /** @return array<string, mixed> ready for json_encode */
    public function write(Recipe $recipe): array
    {
        return [
            'cossel' => Recipe::FORMAT,
            'space' => 'bt709',
            'source' => [
                'sha256' => $recipe->source->sha256,
                'span' => $recipe->source->span,
                'rate' => $recipe->source->rate,
                'size' => $recipe->source->size,
            ],
            'assets' => (object) $recipe->assets,
            'base' => array_map(fn(Touch $touch): array => $this->touch($touch, false), $recipe->base),
            'areas' => array_map($this->area(...), $recipe->areas),
            'finish' => array_map(fn(Touch $touch): array => $this->touch($touch, false), $recipe->finish),
        ];
    }

    public function json(Recipe $recipe): string
    {
        return json_encode($this->write($recipe), JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);
    }

    /** @return array<string, mixed> */
    private function area(Area $area): array
    {
        return [
            'id' => $area->id,
            'name' => $area->name,
            'part' => $area->part,
            'person' => $area->person,
            'on' => $area->on,
            'outline' => [
                'at' => $area->outline->at,
                'invert' => $area->outline->invert,
                'shapes' => array_map($this->shape(...), $area->outline->shapes),
            ],
            'motion' => $this->motion($area->motion),
            'pick' => $area->pick === null ? null : self::pick($area->pick),
            'live' => [
                'from' => $area->live->from,
                'to' => $area->live->to,
                'fadeIn' => $area->live->fadeIn,
                'fadeOut' => $area->live->fadeOut,
            ],
            'strength' => self::keyed($area->strength),
            'blinkGuard' => ['on' => $area->blinkGuard->on, 'keys' => self::keys($area->blinkGuard->keys)],
            'pair' => $area->pair === null ? null : ['with' => $area->pair->with, 'linked' => $area->pair->linked],
            'touches' => array_map(fn(Touch $touch): array => $this->touch($touch, true), $area->touches),
        ];
    }

    /** @return array<string, mixed> */
    private function shape(Shape $shape): array
    {
        $document = ['id' => $shape->id, 'kind' => $shape->kind(), 'join' => $shape->join->value];
        if ($shape instanceof AreaShape) {
            $document['of'] = $shape->of;
        }
        if ($shape instanceof People) {
            $document['place'] = $shape->place;
        }
        $document += self::values($shape->values());
        $document['keys'] = array_map(
            static fn(ShapeKey $key): array => ['frame' => $key->frame, ...self::values($key->values), 'ease' => $key->ease->value],
            $shape->keys,
        );
        if ($shape->isDrawn()) {
            $document['motion'] = $shape->motion === null ? null : $this->motion($shape->motion);
        }

        return $document;
    }

    /**
     * @param array<string, mixed> $values of a shape
     *
     * @return array<string, mixed>
     */
    private static function values(array $values): array
    {
        if (isset($values['points'])) {
            $values['points'] = array_map(
                static fn(PathPoint $p): array => ['at' => [$p->x, $p->y], 'in' => [$p->inX, $p->inY], 'out' => [$p->outX, $p->outY]],
                $values['points'],
            );
        }

        return $values;
    }

    /** @return array<string, mixed> */
    private function motion(Motion $motion): array
    {
        $keys = array_map(static fn(MotionKey $key): array => [
            'frame' => $key->frame,
            'move' => [$key->moveX, $key->moveY],
            'turn' => $key->turn,
            'scale' => $key->scale,
            'shear' => $key->shear,
            'ease' => $key->ease->value,
        ], $motion->keys);
        $shared = [
            'use' => array_map(static fn(Channel $channel): string => $channel->value, $motion->use),
            'pivot' => $motion->pivot,
            'keys' => $keys,
        ];

        return match ($motion->by) {
            Motion::FOLLOW => [
                'by' => $motion->by,
                'start' => $motion->start,
                'span' => $motion->span,
                'model' => $motion->model->value,
                'look' => $motion->look->spots === []
                    ? ['by' => 'outline', 'margin' => $motion->look->margin]
                    : ['by' => 'spots', 'spots' => $motion->look->spots, 'radius' => $motion->look->radius],
                'track' => $motion->track === null ? null : ['sha256' => $motion->track],
                ...$shared,
            ],
            Motion::RIDE => ['by' => $motion->by, 'on' => $motion->on, ...$shared],
            default => ['by' => $motion->by, ...$shared],
        };
    }

    /** @return array<string, mixed> */
    private function touch(Touch $touch, bool $inArea): array
    {
        $document = ['id' => $touch->id, 'kind' => $touch->kind->name()];
        if ($inArea) {
            $document['side'] = $touch->side->value;
        }
        $document += ['on' => $touch->on, 'amount' => self::keyed($touch->amount)];
        foreach ($touch->settings as $name => $setting) {
            $document[$name] = $setting instanceof Keyed ? self::keyed($setting) : $setting;
        }

        return $document;
    }

    /** @return array<string, mixed> */
    private static function pick(Pick $pick): array
    {
        return [
            'space' => 'oklch',
            'samples' => array_map(
                static fn(Sample $s): array => ['frame' => $s->frame, 'at' => $s->at, 'rgb' => $s->rgb, 'sign' => $s->taken ? '+' : '-'],
                $pick->samples,
            ),
            'hue' => $pick->hue,
            'chroma' => $pick->chroma,
            'light' => $pick->light,
            'follow' => $pick->follow,
            'clean' => ['specks' => $pick->specks, 'holes' => $pick->holes],
            'blur' => $pick->blur,
            'invert' => $pick->invert,
        ];
    }

    /** @return float|array<string, mixed> */
    private static function keyed(Keyed $keyed): float|array
    {
        if ($keyed->keys === []) {
            return $keyed->value;
        }

        return [
            'value' => $keyed->value,
            'keys' => self::keys($keyed->keys),
        ];
    }

    /**
     * @param list<Key> $keys
     *
     * @return list<array<string, mixed>>
     */
    private static function keys(array $keys): array
    {
        return array_map(
            static fn(Key $key): array => ['frame' => $key->frame, 'value' => $key->value, 'ease' => $key->ease->value],
            $keys,
        );
    }
}
