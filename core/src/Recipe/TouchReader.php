<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

use Cossel\Core\Touch\Asset;
use Cossel\Core\Touch\Choice;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Parameter;
use Cossel\Core\Touch\Points;

/**
 * Reads touches: of whole frames, of areas, of the finish.
 *
 * @internal
 */
final readonly class TouchReader
{
    private const MOST = 100;

    public function __construct(private Kinds $kinds) {}

    /** @return list<Touch> */
    public function ofFrame(Node $n): array
    {
        return array_map(fn(Node $v): Touch => $this->touch($v, false), $n->items(0, self::MOST));
    }

    /** @return list<Touch> */
    public function ofArea(Node $n): array
    {
        return array_map(fn(Node $v): Touch => $this->touch($v, true), $n->items(0, self::MOST));
    }

    /** @return list<Touch> the limits, if any, last */
    public function ofFinish(Node $n): array
    {
        $items = $n->items(0, self::MOST);
        $last = count($items) - 1;

        return array_map(fn(Node $v, int $i): Touch => $this->touch($v, false, $i === $last), $items, array_keys($items));
    }

    private function touch(Node $n, bool $inArea, bool $last = false): Touch
    {
        $kind = $this->kinds->find($n->get('kind', 'a kind of touch')->text())
            ?? throw $n->get('kind')->unexpected('one of ' . implode(', ', $this->kinds->names()));
        if ($kind instanceof Legal && !$last) {
            throw $n->get('kind')->unexpected('legal only as the last touch of finish');
        }
        if ($kind instanceof InArea && !$inArea) {
            throw $n->get('kind')->unexpected('a kind that can act on the whole frame');
        }
        $fields = ['id', 'kind', 'on', 'amount'];
        if ($inArea) {
            $fields[] = 'side';
        }
        $settings = [];
        foreach ($kind->parameters() as $parameter) {
            $fields[] = $parameter->name;
            $settings[$parameter->name] = $n->has($parameter->name)
                ? self::setting($n->get($parameter->name), $parameter)
                : self::neutral($parameter);
        }
        $n->object($fields);

        return new Touch(
            $n->get('id', 'an id')->id(),
            $kind,
            $settings,
            $n->optional('side', fn(Node $v): Side => $this->side($v, $kind), Side::Inside),
            $n->optional('on', static fn(Node $v): bool => $v->flag(), true),
            $n->optional('amount', static fn(Node $v): Keyed => Keyframes::keyed($v, 0, 1), new Keyed(1.0)),
        );
    }

    private function side(Node $n, Kind $kind): Side
    {
        $side = $n->oneOf(Side::class);
        if ($side === Side::Outside && $kind instanceof InArea) {
            throw $n->unexpected("inside: {$kind->name()} acts inside areas only");
        }

        return $side;
    }

    private static function setting(Node $n, Parameter $parameter): mixed
    {
        return match (true) {
            $parameter instanceof Number => Keyframes::keyed($n, $parameter->least, $parameter->most),
            $parameter instanceof Choice => $n->word($parameter->words),
            $parameter instanceof Points => self::points($n, $parameter),
            $parameter instanceof Asset => $n->isNull() ? null : $n->id(),
            default => throw new \LogicException("There is no way to read {$parameter->name}."),
        };
    }

    private static function neutral(Parameter $parameter): mixed
    {
        return $parameter instanceof Number ? new Keyed($parameter->neutral) : $parameter->neutral;
    }

    /** @return list<array{float, float}> */
    private static function points(Node $n, Points $parameter): array
    {
        $points = [];
        $before = -INF;
        foreach ($n->items(0, Points::MOST) as $item) {
            [$x, $y] = $item->items(2, 2);
            $at = $x->number(...$parameter->x);
            if ($at <= $before) {
                throw $x->unexpected('points by rising x');
            }
            $before = $at;
            $points[] = [$at, $y->number(...$parameter->y)];
        }

        return $points;
    }
}
