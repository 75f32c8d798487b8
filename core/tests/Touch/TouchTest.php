<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Colour;
use Cossel\Core\Touch\Conceal;
use Cossel\Core\Touch\Exposure;
use Cossel\Core\Touch\Glow;
use Cossel\Core\Touch\Grain;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Insert;
use Cossel\Core\Touch\Iris;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\MatchColour;
use Cossel\Core\Touch\Sharpen;
use Cossel\Core\Touch\Sidelight;
use Cossel\Core\Touch\Tone;
use Cossel\Core\Touch\Whiten;
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
        Scene::painted(static fn(): array => [0, 0, 0], transfer: $transfer)->act($kind, Scene::values($kind, $changes), $planes, Weight::everywhere($rect, $weight));

        return array_map(static fn(int $i): array => $planes->at(3 + $i, 4), array_keys($colours));
    }

    public function test_neutral_values_are_known_as_neutral_and_others_are_not(): void
    {
        foreach (Kinds::all()->list() as $kind) {
            self::assertSame(!$kind instanceof Legal, $kind->isNeutral(Scene::values($kind, [])), $kind->name());
            self::assertFalse($kind->isNeutral(Scene::strong($kind)), $kind->name());
        }
    }

    public function test_what_only_shapes_a_change_is_neutral_alone(): void
    {
        foreach ([[new Tone(), 'pivot', 0.7], [new Tone(), 'calm', 0.01], [new Sidelight(), 'direction', 90.0], [new Iris(), 'hue', 120.0], [new Glow(), 'radius', 0.05], [new Sharpen(), 'threshold', 0.0], [new MatchColour(), 'targetL', 0.3], [new Whiten(), 'ceiling', 0.5], [new Conceal(), 'limit', 1.0], [new Insert(), 'moveX', 1.0]] as [$kind, $name, $value]) {
            self::assertTrue($kind->isNeutral(Scene::values($kind, [$name => $value])), "{$kind->name()} {$name}");
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
        $scene = Scene::noise();
        foreach (Kinds::all()->list() as $kind) {
            $planes = $scene->frame->window($scene->frame->format->rect());
            $before = clone $planes;
            $values = Scene::strong($kind);
            $scene->act($kind, $values, $planes, Weight::inside(Grey::filled($scene->matte->rect, 0.0), 1.0));
            if (!$kind instanceof InArea) {
                $scene->act($kind, $values, $planes, Weight::outside(Grey::filled($planes->rect, 1.0), 0.7));
            }
            self::assertSame([$before->r, $before->g, $before->b], [$planes->r, $planes->g, $planes->b], $kind->name());
        }
    }

    public function test_every_kind_changes_something_inside_and_nothing_outside_of_its_weight(): void
    {
        $scene = Scene::noise();
        $before = $scene->frame->window($scene->frame->format->rect());
        foreach (Kinds::all()->list() as $kind) {
            $values = $kind instanceof Grain ? ['level' => 2.0] : Scene::strong($kind);
            $seen = $kind instanceof Grain ? Scene::painted(static fn(int $x, int $y): array => $scene->matte->rect->grow(-6)->contains(Rect::of($x, $y, 1, 1)) ? [0.5, 0.5, 0.5] : [0.5 + 0.02 * (($x * 7 + $y * 13) % 5 - 2), 0.5, 0.5]) : $scene;
            $before = $seen->frame->window($seen->frame->format->rect());
            $after = $seen->touched($kind, $values);
            $changed = 0;
            for ($y = 0; $y < Scene::HEIGHT; ++$y) {
                for ($x = 0; $x < Scene::WIDTH; ++$x) {
                    $inside = $seen->matte->rect->contains(Rect::of($x, $y, 1, 1)) && $seen->matte->at($x, $y) > 0.0;
                    if ($inside) {
                        $changed += $after->at($x, $y) !== $before->at($x, $y) ? 1 : 0;
                    } else {
                        self::assertSame($before->at($x, $y), $after->at($x, $y), "{$kind->name()} {$x} {$y}");
                    }
                }
            }
            self::assertGreaterThan(20, $changed, $kind->name());
        }
    }

    public function test_a_part_of_the_weight_gives_that_part_of_the_whole(): void
    {
        // What the bench asks for is a piece: it has to be the piece of the whole picture.
        $scene = Scene::noise();
        $piece = Rect::of(40, 26, 13, 9);
        foreach (Kinds::all()->list() as $kind) {
            $values = Scene::strong($kind);
            $whole = $scene->touched($kind, $values);
            $all = $scene->frame->format->rect();
            $effect = $scene->ready($kind, $values, $scene->frame->window($all));
            $planes = $scene->frame->window($effect->needs($piece)->intersect($all));
            $effect->apply($planes, Weight::inside($scene->matte->window($piece), 1.0));
            for ($y = $piece->y; $y < $piece->bottom(); ++$y) {
                for ($x = $piece->x; $x < $piece->right(); ++$x) {
                    foreach ($planes->at($x, $y) as $c => $v) {
                        self::assertEqualsWithDelta($whole->at($x, $y)[$c], $v, 1e-9, "{$kind->name()} {$x} {$y}");
                    }
                }
            }
        }
    }
}
