<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Asset;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Parameter;

/** What is done to areas of one shot, stated for another: frames fitted to its length, ids and names of files free there. */
final class Restated
{
    /** @var list<string> what could only be done so: sentences without their stops */
    public array $words = [];
    /** @var array<string, array{sha256: string, kind: string}> of both shots */
    public readonly array $assets;
    /** @var array<string, string> names of files in the treatment => there */
    private array $files = [];
    private readonly Span $span;
    private readonly bool $isAsLong;

    /** @param \Closure(string): string $newId from its first letter */
    public function __construct(Treatment $treatment, Recipe $target, private readonly \Closure $newId)
    {
        $this->span = new Span($treatment->span, $target->source->span);
        $this->isAsLong = $treatment->span === $target->source->span;
        $assets = $target->assets;
        foreach ($treatment->assets as $name => $asset) {
            $free = $name;
            for ($n = 2; isset($assets[$free]) && $assets[$free] !== $asset; ++$n) {
                $free = "{$name}-{$n}";
            }
            $assets[$free] = $asset;
            $this->files[$name] = $free;
        }
        $this->assets = $assets;
    }

    /**
     * An area of the other shot with what is done to the one that is carried.
     *
     * @param float $scale of the area there, against what it was
     */
    public function treated(Area $there, Area $area, float $scale = 1.0): Area
    {
        $isKeyed = $area->strength->keys !== [] || array_filter($area->touches, self::isKeyed(...)) !== [];
        if ($isKeyed && !$this->isAsLong) {
            $this->words[] = "{$area->name}: what changes over the shot was fitted to its length";
        }
        if ($area->blinkGuard->keys !== []) {
            $this->words[] = "{$area->name}: blinks set by hand were left out";
        }

        return new Area(...[
            ...get_object_vars($there),
            'on' => $area->on,
            'live' => $this->span->live($area->live),
            'strength' => $this->span->keyed($area->strength),
            'blinkGuard' => new BlinkGuard($area->blinkGuard->on),
            'pick' => $area->pick,
            'pair' => null,
            'touches' => array_map(fn(Touch $touch): Touch => $this->touch($touch, $scale), $area->touches),
        ]);
    }

    public function touch(Touch $touch, float $scale = 1.0): Touch
    {
        $settings = [];
        foreach ($touch->kind->parameters() as $parameter) {
            $value = $touch->settings[$parameter->name];
            $settings[$parameter->name] = match (true) {
                $value instanceof Keyed => self::grown($this->span->keyed($value), $parameter, $scale),
                $parameter instanceof Asset && is_string($value) => $this->files[$value] ?? $value,
                default => $value,
            };
        }

        return new Touch(($this->newId)('t'), $touch->kind, $settings, $touch->side, $touch->on, $this->span->keyed($touch->amount));
    }

    /** A length as it is on something larger or smaller. */
    private static function grown(Keyed $length, Parameter $parameter, float $scale): Keyed
    {
        return $parameter instanceof Number && $parameter->unit === 'heights' && $scale !== 1.0
            ? $length->each(static fn(float $v): float => round(max($parameter->least, min($parameter->most, $v * $scale)), 5))
            : $length;
    }

    /** How large an area is: the mean of half its width and half its height; null for what is made of others. */
    public static function size(Area $area): ?float
    {
        foreach ($area->outline->shapes as $shape) {
            $shape = $shape->at($area->outline->at);
            if ($shape instanceof Ellipse || $shape instanceof Box) {
                return ($shape->radii[0] + $shape->radii[1]) / 2;
            }
            if ($shape instanceof Path) {
                [$x, $y] = [array_column($shape->points, 'x'), array_column($shape->points, 'y')];

                return (max($x) - min($x) + max($y) - min($y)) / 4;
            }
        }

        return null;
    }

    /**
     * The base or the finish.
     *
     * @param list<Touch>|null $carried
     * @param list<Touch>      $here
     *
     * @return list<Touch>
     */
    public function whole(string $which, ?array $carried, array $here, bool $replace): array
    {
        if ($carried === null) {
            return $here;
        }
        $touches = array_map($this->touch(...), $carried);
        if ($here === [] || $replace) {
            return $touches;
        }
        $this->words[] = "The {$which} is set already: laid after it";

        return [...$here, ...$touches];
    }

    private static function isKeyed(Touch $touch): bool
    {
        $keyed = static fn(mixed $v): bool => $v instanceof Keyed && $v->keys !== [];

        return array_filter([$touch->amount, ...array_values($touch->settings)], $keyed) !== [];
    }

    public static function named(Shape $shape, string $id): Shape
    {
        $values = [...get_object_vars($shape), 'id' => $id];

        return match (true) {
            $shape instanceof AreaShape => new AreaShape($id, $shape->of, $shape->opacity, $shape->join, $shape->keys),
            $shape instanceof Ellipse => new Ellipse(...$values),
            $shape instanceof Box => new Box(...$values),
            $shape instanceof Path => new Path(...$values),
            $shape instanceof People => new People(...array_diff_key($values, ['motion' => null])),
            default => throw new \LogicException("There is no such shape as {$shape->kind()}."),
        };
    }

    /** A shape taken along by a similarity, its feather too. */
    public static function moved(Shape $shape, Matrix $fit): Shape
    {
        if ($shape instanceof People && $shape->place !== null) {
            $shape = $shape->placed($fit->apply(...$shape->place));
        }

        return $shape->changed(static function (array $values) use ($fit): array {
            $scale = $fit->scale();
            foreach (['featherIn', 'featherOut', 'grow'] as $length) {
                $values[$length] *= $scale;
            }
            if (isset($values['points'])) {
                return [...$values, 'points' => array_map(static fn(PathPoint $p): PathPoint => $p->moved($fit), $values['points'])];
            }

            return !isset($values['centre']) ? $values : [
                ...$values,
                'centre' => $fit->apply(...$values['centre']),
                'radii' => array_map(static fn(float $v): float => $v * $scale, $values['radii']),
                'turn' => $values['turn'] + $fit->turn(),
            ];
        });
    }
}
