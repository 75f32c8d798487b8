<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Colour;
use Cossel\Core\Touch\Exposure;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Tone;
use Cossel\Core\Touch\Weight;
use PHPUnit\Framework\TestCase;

final class TouchTest extends TestCase
{
    /** @return list<array{float, float, float}> */
    private static function colours(): array
    {
        $random = Chance::seeded(9);
        $colours = [[0.0, 0.0, 0.0], [1.0, 1.0, 1.0], [-0.07, 0.4, 1.2]];
        for ($i = 0; $i < 60; ++$i) {
            $colours[] = [$random->between(0, 1.1), $random->between(0, 1.1), $random->between(0, 1.1)];
        }

        return $colours;
    }

    /** @param array<string, float> $changes */
    private static function values(Kind $kind, array $changes): array
    {
        $values = [];
        foreach ($kind->parameters() as $parameter) {
            $values[$parameter->name] = $changes[$parameter->name] ?? $parameter->neutral;
        }

        return $values;
    }

    /**
     * @param array<string, float> $changes
     *
     * @return list<array{float, float, float}>
     */
    private static function touched(Kind $kind, array $changes, Transfer $transfer = Transfer::Bt1886, float $weight = 1.0): array
    {
        $colours = self::colours();
        $rect = Rect::of(3, 4, count($colours), 1);
        $planes = new Planes($rect, ...array_map(static fn(int $i): array => array_column($colours, $i), [0, 1, 2]));
        $kind->apply($planes, Weight::everywhere($rect, $weight), self::values($kind, $changes), $transfer);

        return array_map(static fn(int $i): array => $planes->at(3 + $i, 4), array_keys($colours));
    }

    public function test_neutral_values_are_known_as_neutral_and_others_are_not(): void
    {
        foreach (Kinds::all()->list() as $kind) {
            self::assertTrue($kind->isNeutral(self::values($kind, [])), $kind->name());
            foreach ($kind->parameters() as $parameter) {
                $neutral = $kind->isNeutral(self::values($kind, [$parameter->name => $parameter->most]));
                self::assertSame($parameter->name === 'pivot', $neutral, "{$kind->name()} {$parameter->name}");
            }
        }
    }

    public function test_a_stop_doubles_linear_light(): void
    {
        foreach (Transfer::cases() as $transfer) {
            foreach (self::touched(new Exposure(), ['stops' => 1], $transfer) as $i => $rgb) {
                foreach ($rgb as $c => $value) {
                    $was = $transfer->linear(self::colours()[$i][$c]);
                    self::assertEqualsWithDelta(2 * $was, $transfer->linear($value), 2e-6);
                }
            }
        }
    }

    public function test_half_the_weight_is_half_the_way(): void
    {
        foreach ([[new Exposure(), ['stops' => 1.3]], [new Tone(), ['gamma' => 1.4, 'shadows' => 0.6]], [new Colour(), ['temperature' => 30, 'saturation' => 1.5]]] as [$kind, $changes]) {
            $whole = self::touched($kind, $changes);
            foreach (self::touched($kind, $changes, weight: 0.5) as $i => $rgb) {
                foreach ($rgb as $c => $value) {
                    self::assertEqualsWithDelta((self::colours()[$i][$c] + $whole[$i][$c]) / 2, $value, 1e-9);
                }
            }
        }
    }

    public function test_tone_agrees_with_its_formula(): void
    {
        $v = ['lift' => 0.05, 'gamma' => 1.3, 'gain' => 0.9, 'contrast' => 1.2, 'pivot' => 0.4, 'blacks' => -0.3, 'shadows' => 0.8, 'highlights' => -0.5, 'whites' => 0.2];
        $s = static function (float $a, float $b, float $x): float {
            $t = max(0, min(1, ($x - $a) / ($b - $a)));

            return $t * $t * (3 - 2 * $t);
        };
        foreach (self::touched(new Tone(), $v) as $i => $rgb) {
            $levelled = array_map(static function (float $x) use ($v): float {
                $y = $v['gain'] * ($x + $v['lift'] * (1 - $x));
                $z = $v['pivot'] * ((abs($y) ** (1 / $v['gamma'])) / $v['pivot']) ** $v['contrast'];

                return $y < 0 ? -$z : $z;
            }, self::colours()[$i]);
            $luma = 0.2126 * $levelled[0] + 0.7152 * $levelled[1] + 0.0722 * $levelled[2];
            $stops = -0.3 * (1 - $s(0, 0.2, $luma)) + 0.8 * (1 - $s(0, 0.5, $luma)) - 0.5 * $s(0.5, 1, $luma) + 0.2 * $s(0.8, 1, $luma);
            foreach ($rgb as $c => $value) {
                self::assertEqualsWithDelta($levelled[$c] * 2 ** ($stops / 2.4), $value, 3e-4, "colour {$i}");
            }
        }
    }

    public function test_saturation_is_that_of_the_colour_decision_list(): void
    {
        // ASC CDL 1.2: luma + sat x (value - luma), BT.709 weights; sat 0 leaves the luma alone.
        foreach (self::touched(new Colour(), ['saturation' => 0]) as $i => $rgb) {
            [$r, $g, $b] = self::colours()[$i];
            foreach ($rgb as $value) {
                self::assertEqualsWithDelta(0.2126 * $r + 0.7152 * $g + 0.0722 * $b, $value, 1e-12);
            }
        }
        foreach (self::touched(new Colour(), ['saturation' => 2]) as $i => $rgb) {
            [$r, $g, $b] = self::colours()[$i];
            self::assertEqualsWithDelta(2 * $r - (0.2126 * $r + 0.7152 * $g + 0.0722 * $b), $rgb[0], 1e-12);
        }
    }

    public function test_temperature_works_on_linear_light(): void
    {
        foreach (Transfer::cases() as $transfer) {
            $m = \Cossel\Core\Colour\WhitePoint::change(25, -6);
            foreach (self::touched(new Colour(), ['temperature' => 25, 'tint' => -6, 'saturation' => 1.2], $transfer) as $i => $rgb) {
                $light = array_map($transfer->linear(...), self::colours()[$i]);
                $lit = array_map(static fn(int $row): float => $transfer->code($m[3 * $row] * $light[0] + $m[3 * $row + 1] * $light[1] + $m[3 * $row + 2] * $light[2]), [0, 1, 2]);
                $luma = 0.2126 * $lit[0] + 0.7152 * $lit[1] + 0.0722 * $lit[2];
                foreach ($rgb as $c => $value) {
                    self::assertEqualsWithDelta($luma + 1.2 * ($lit[$c] - $luma), $value, 5e-4);
                }
            }
        }
    }

    public function test_where_the_weight_is_nothing_nothing_changes_bit_for_bit(): void
    {
        foreach (Kinds::all()->list() as $kind) {
            $values = array_map(static fn($p): float => $p->most === $p->neutral ? $p->least : $p->most, array_column(array_map(static fn($p): array => [$p->name, $p], $kind->parameters()), 1, 0));
            $rect = Rect::of(0, 0, 63, 1);
            $planes = new Planes($rect, ...array_map(static fn(int $i): array => array_column(self::colours(), $i), [0, 1, 2]));
            $before = clone $planes;
            $kind->apply($planes, Weight::inside(Grey::filled($rect, 0.0), 1.0), $values, Transfer::Bt1886);
            $kind->apply($planes, Weight::outside(Grey::filled($rect, 1.0), 0.7), $values, Transfer::Bt1886);
            self::assertSame([$before->r, $before->g, $before->b], [$planes->r, $planes->g, $planes->b], $kind->name());
        }
    }

    public function test_only_the_weights_rectangle_is_touched(): void
    {
        foreach (Kinds::all()->list() as $kind) {
            $values = self::values($kind, ['stops' => 1, 'gamma' => 2, 'shadows' => 1, 'temperature' => 40]);
            $planes = Planes::filled(Rect::of(10, 10, 6, 5), 0.4, 0.3, 0.2);
            $kind->apply($planes, Weight::inside(Grey::filled(Rect::of(12, 11, 3, 2), 1.0), 1.0), $values, Transfer::Bt1886);
            for ($y = 10; $y < 15; ++$y) {
                for ($x = 10; $x < 16; ++$x) {
                    $inside = $x >= 12 && $x < 15 && $y >= 11 && $y < 13;
                    self::assertSame($inside, $planes->at($x, $y) !== [0.4, 0.3, 0.2], "{$kind->name()} {$x} {$y}");
                }
            }
        }
    }
}
