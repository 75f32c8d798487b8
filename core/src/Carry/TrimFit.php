<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Trim;

/**
 * The trim that makes pixels look as wanted: least squares over the nine numbers of {@see Tones} by Gauss and Newton, held a little to
 * changing nothing where they do not tell (K. Levenberg, Quart. Appl. Math. 2, 1944).
 */
final class TrimFit
{
    private const ROUNDS = 8;
    /** A step of each setting that is small and seen. */
    private const STEPS = ['stops' => 0.02, 'temperature' => 1.0, 'tint' => 0.3, 'saturation' => 0.02];
    /** How far each goes without much ado, and for how much of Oklab it goes as far. */
    private const USUAL = ['stops' => 1.5, 'temperature' => 30.0, 'tint' => 10.0, 'saturation' => 0.25];
    private const FIRM = 0.002;
    /** How much the whole counts against its lights and its shadows. */
    private const WHOLE = 8.0;

    /** @return Touch|null null where there are too few pixels */
    public static function least(Given $given, Tones $wanted, Touch $from): ?Touch
    {
        $touch = $from;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $now = $given->tones($touch)?->numbers();
            if ($now === null) {
                return null;
            }
            $slopes = [];
            foreach (self::STEPS as $setting => $step) {
                // At its greatest it can only be stepped back.
                $back = self::value(self::moved($touch, [$setting => $step]), $setting) === self::value($touch, $setting) ? -1.0 : 1.0;
                $further = $given->tones(self::moved($touch, [$setting => $back * $step]))?->numbers() ?? $now;
                $slopes[$setting] = array_map(static fn(float $a, float $b): float => $back * ($a - $b), $further, $now);
            }
            $miss = array_map(static fn(float $a, float $b): float => $a - $b, $wanted->numbers(), $now);
            $steps = Linear::solve(self::normal($slopes), self::right($slopes, $miss, $touch));
            if ($steps === null) {
                break;
            }
            $moves = array_map(static fn(float $n, float $step): float => $n * $step, $steps, array_values(self::STEPS));
            $touch = self::moved($touch, array_combine(array_keys(self::STEPS), $moves));
            if (max(array_map(abs(...), $steps)) < 0.01) {
                break;
            }
        }

        return $touch;
    }

    /**
     * @param array<string, list<float>> $slopes for a step of each setting
     *
     * @return list<list<float>>
     */
    private static function normal(array $slopes): array
    {
        $rows = [];
        foreach (array_values($slopes) as $i => $one) {
            foreach (array_values($slopes) as $j => $other) {
                $rows[$i][$j] = self::product($one, $other);
            }
        }

        foreach (array_keys($slopes) as $i => $setting) {
            $rows[$i][$i] += self::firm($setting);
        }

        return $rows;
    }

    /**
     * @param array<string, list<float>> $slopes
     * @param list<float>                $miss
     *
     * @return list<float>
     */
    private static function right(array $slopes, array $miss, Touch $touch): array
    {
        $right = [];
        foreach ($slopes as $setting => $slope) {
            $neutral = $setting === 'saturation' ? 1.0 : 0.0;
            $away = (self::value($touch, $setting) - $neutral) / self::STEPS[$setting];
            $right[] = self::product($slope, $miss) - self::firm($setting) * $away;
        }

        return $right;
    }

    /** What a step away from changing nothing counts. */
    private static function firm(string $setting): float
    {
        return (self::FIRM * self::STEPS[$setting] / self::USUAL[$setting]) ** 2;
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function product(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $sum += ($i < 3 ? self::WHOLE : 1.0) * $v * $b[$i];
        }

        return $sum;
    }

    /** @param array<string, float> $moves by setting */
    private static function moved(Touch $touch, array $moves): Touch
    {
        $settings = $touch->settings;
        foreach ((new Trim())->parameters() as $parameter) {
            if ($parameter instanceof Number && isset($moves[$parameter->name])) {
                $v = self::value($touch, $parameter->name) + $moves[$parameter->name];
                $settings[$parameter->name] = new Keyed(max($parameter->least, min($parameter->most, $v)));
            }
        }

        return new Touch($touch->id, $touch->kind, $settings, $touch->side, $touch->on, $touch->amount);
    }

    private static function value(Touch $touch, string $setting): float
    {
        $v = $touch->settings[$setting];

        return $v instanceof Keyed ? $v->value : throw new \LogicException("A trim has no {$setting}.");
    }
}
