<?php

declare(strict_types=1);

namespace App\Reports;

use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Points;

/** Touches and motions in words and values, for people who read and do not edit. */
final class Words
{
    public static function touch(Touch $touch): string
    {
        $settings = [];
        foreach ($touch->kind->parameters() as $parameter) {
            $value = $touch->settings[$parameter->name];
            $said = match (true) {
                $value instanceof Keyed && $parameter instanceof Number => $value->keys === [] && $value->value === (float) $parameter->neutral ? null : self::number($value) . (in_array($parameter->unit, ['', $parameter->name], true) ? '' : " {$parameter->unit}"),
                $parameter instanceof Points => $value === [] ? null : count($value) . ' points',
                default => $value === $parameter->neutral || $value === null ? null : (string) $value,
            };
            $said === null || $settings[] = self::split($parameter->name) . " {$said}";
        }
        $words = self::split($touch->kind->name()) . ($settings === [] ? '' : ': ' . implode(', ', $settings));
        $amount = $touch->amount->keys === [] && $touch->amount->value === 1.0 ? '' : ', amount ' . self::number($touch->amount->times(100.0)) . ' %';

        return $words . $amount . ($touch->side === Side::Outside ? ', outside' : '') . ($touch->on ? '' : ' (off)');
    }

    public static function motion(Motion $motion, Recipe $recipe): string
    {
        return match ($motion->by) {
            Motion::FOLLOW => 'followed',
            Motion::RIDE => 'rides on ' . ($motion->on === null ? 'another' : $recipe->area($motion->on)->name),
            default => $motion->keys === [] ? 'where it was drawn' : 'moved by hand',
        };
    }

    /** A name of the recipe as words. */
    public static function split(string $name): string
    {
        return strtolower((string) preg_replace('/(?<=[a-z])(?=[A-Z])/', ' ', $name));
    }

    private static function number(Keyed $value): string
    {
        $plain = static fn(float $v): string => rtrim(rtrim(sprintf('%.3F', $v), '0'), '.');
        if ($value->keys === []) {
            return $plain($value->value);
        }
        $values = array_map(static fn($key): float => $key->value, $value->keys);

        return $plain(min($values)) . ' to ' . $plain(max($values)) . ', keyed';
    }
}
