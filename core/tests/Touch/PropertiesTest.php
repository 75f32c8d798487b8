<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Balance;
use Cossel\Core\Touch\Cdl;
use Cossel\Core\Touch\Curves;
use Cossel\Core\Touch\Exposure;
use Cossel\Core\Touch\Glow;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Lut;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Points;
use Cossel\Core\Touch\Tone;
use Cossel\Core\Touch\Whiten;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What holds for every kind of touch, whatever its formula is. */
final class PropertiesTest extends TestCase
{
    /** @return iterable<string, array{Kind}> */
    public static function kinds(): iterable
    {
        foreach (Kinds::all()->list() as $kind) {
            yield $kind->name() => [$kind];
        }
    }

    /** A picture with all that touches look for: skin, teeth, an iris, light and dark ends, greys, noise. */
    private static function scene(Transfer $transfer = Transfer::Bt1886): Scene
    {
        $random = Chance::seeded(3);

        return Scene::painted(static function (int $x, int $y) use ($random): array {
            $n = $random->between(-0.01, 0.01);

            return match (intdiv($x, 16)) {
                0 => [0.62 + $n, 0.46 + $n, 0.38 + $n],
                1 => [0.90 + $n, 0.87 + $n, 0.80 + $n],
                2 => [0.30 + $n, 0.38 + $n, 0.52 + $n],
                3 => [$y / 64, $y / 64, $y / 64],
                4 => [1.05 - $y / 60, $y / 64, 0.2],
                default => [$random->between(-0.03, 1.05), $random->between(-0.03, 1.05), $random->between(-0.03, 1.05)],
            };
        }, radii: [0.7, 0.45], transfer: $transfer);
    }

    #[DataProvider('kinds')]
    public function test_it_begins_where_nothing_is_changed(Kind $kind): void
    {
        $random = Chance::seeded(17);
        $tried = 0;
        foreach (Transfer::cases() as $transfer) {
            $scene = self::scene($transfer);
            $before = $scene->frame->window($scene->frame->format->rect());
            foreach ($kind->parameters() as $parameter) {
                for ($try = 0; $try < 4; ++$try) {
                    $values = Scene::values($kind, []);
                    // What only shapes the change may be anything.
                    foreach ($kind->parameters() as $other) {
                        $anything = $other instanceof Number ? $random->between($other->least, $other->most) : null;
                        if ($try > 0 && $anything !== null && $kind->isNeutral([...$values, $other->name => $anything])) {
                            $values[$other->name] = $anything;
                        }
                    }
                    $values[$parameter->name] = match (true) {
                        $parameter instanceof Number => max($parameter->least, min($parameter->most, $parameter->neutral + ($try % 2 === 0 ? 1e-7 : -1e-7))),
                        $parameter instanceof Points => self::almostNeutral($kind, $parameter),
                        default => $parameter->neutral,
                    };
                    if ($kind->isNeutral($values) || $kind instanceof Legal) {
                        continue;
                    }
                    ++$tried;
                    $after = $scene->touched($kind, $values);
                    foreach (['r', 'g', 'b'] as $channel) {
                        // Near black a code value moves far for next to no light.
                        $most = max(array_map(static fn(float $a, float $b): float => min(abs($a - $b), abs($transfer->linear($a) - $transfer->linear($b))), $before->{$channel}, $after->{$channel}));
                        self::assertLessThan(2e-5, $most, "{$parameter->name} {$transfer->value} " . json_encode($values));
                    }
                }
            }
        }
        self::assertTrue($tried > 0 || $kind instanceof Legal || $kind instanceof Lut || $kind->name() === 'insert', $kind->name());
    }

    /** @return list<array{float, float}> points that say next to nothing */
    private static function almostNeutral(Kind $kind, Points $points): array
    {
        return $kind instanceof Curves ? [[0.0, 0.0], [0.5, 0.5 + 1e-7], [1.0, 1.0]] : [[$points->x[0] + 10, 1e-7], [$points->x[1] - 100, -1e-7]];
    }

    /** @return iterable<string, array{Kind, array<string, mixed>}> those that keep what is lighter lighter */
    public static function rising(): iterable
    {
        yield 'exposure' => [new Exposure(), ['stops' => 2.0]];
        yield 'levels' => [new Tone(), ['lift' => 0.1, 'gamma' => 2.2, 'gain' => 1.3, 'contrast' => 1.4]];
        yield 'flat' => [new Tone(), ['lift' => -0.1, 'gamma' => 0.4, 'contrast' => 0.5]];
        yield 'decision list' => [new Cdl(), ['slopeRed' => 1.5, 'slopeGreen' => 1.5, 'slopeBlue' => 1.5, 'powerRed' => 0.4, 'powerGreen' => 0.4, 'powerBlue' => 0.4]];
        yield 'curve' => [new Curves(), ['luma' => [[0.0, 0.05], [0.2, 0.1], [0.5, 0.8], [1.0, 0.9]]]];
        yield 'balance' => [new Balance(), ['shadowsYellow' => -0.02, 'highlightsYellow' => 0.02]];
        yield 'legal' => [new Legal(), ['knee' => 0.05]];
        foreach ([0.5, 1.0, 2.0, 4.0] as $intensity) {
            yield "glow {$intensity}" => [new Glow(), ['intensity' => $intensity, 'radius' => 0.1, 'threshold' => 0.1]];
        }
        foreach ([[0.05, 0.85], [0.2, 0.7], [0.0, 0.6]] as [$lift, $ceiling]) {
            yield "teeth {$lift} {$ceiling}" => [new Whiten(), ['yellow' => 1.0, 'lift' => $lift, 'ceiling' => $ceiling, 'dark' => 0.0, 'gums' => 0.1]];
        }
    }

    /** @param array<string, mixed> $changes */
    #[DataProvider('rising')]
    public function test_what_is_lighter_stays_lighter(Kind $kind, array $changes): void
    {
        // One grey after another as a pixel in the same surroundings, with a bright edge beside it.
        $scene = Scene::noise();
        $rect = Rect::of(0, 0, 60, 3);
        $last = -INF;
        foreach (range(-3, 110) as $step) {
            $grey = $step / 100;
            $row = array_map(static fn(int $x): float => $x === 30 ? $grey : ($x > 30 ? 0.95 : 0.5), range(0, 59));
            $v = [...$row, ...$row, ...$row];
            $planes = new Planes($rect, $v, $v, $v);
            $scene->act($kind, Scene::values($kind, $changes), $planes, Weight::everywhere($rect, 1.0));
            $luma = 0.2126 * $planes->r[90] + 0.7152 * $planes->g[90] + 0.0722 * $planes->b[90];
            self::assertGreaterThanOrEqual($last - 1e-9, $luma, "at {$grey}");
            $last = $luma;
        }
    }

    public function test_no_light_of_a_glow_passes_white_where_there_was_none(): void
    {
        $scene = Scene::painted(static fn(int $x): array => $x < 48 ? [0.2, 0.2, 0.2] : [0.95, 0.95, 0.95]);
        foreach ([1.0, 2.5, 4.0] as $intensity) {
            $after = $scene->everywhere(new Glow(), ['intensity' => $intensity, 'radius' => 0.05, 'threshold' => 0.0]);
            self::assertLessThan(1.0, max($after->r));
            self::assertGreaterThan($after->at(44, 30)[0], $after->at(50, 30)[0]);
            self::assertGreaterThan($after->at(2, 30)[0] + 0.05, $after->at(44, 30)[0]);
        }
    }

    public function test_a_tooth_above_the_ceiling_is_left_as_light_as_it_was(): void
    {
        $scene = Scene::painted(static fn(): array => [0.9, 0.87, 0.8]);
        $before = $scene->frame->window($scene->frame->format->rect())->at(48, 32);
        $luma = static fn(array $c): float => 0.2126 * $c[0] + 0.7152 * $c[1] + 0.0722 * $c[2];
        foreach ([0.0, 0.1] as $lift) {
            $after = $scene->touched(new Whiten(), ['yellow' => 1.0, 'lift' => $lift, 'ceiling' => 0.5])->at(48, 32);
            self::assertEqualsWithDelta($luma($before), $luma($after), 0.03);
            self::assertGreaterThan($before[2] + 0.02, $after[2]);
        }
    }
}
