<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Discriminant;
use Cossel\Core\Motion\RegionFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

final class LostAndFoundTest extends TestCase
{
    /** @return array<int, Step> */
    private static function follow(MovingTexture $source, int $to): array
    {
        $region = Still::matte(new Outline(0, [new Ellipse('s', [0.75, 0.5], [0.27, 0.27])]), $source->frame());

        return iterator_to_array(RegionFollower::from($source, 0, $region, Model::Similarity)->to($to));
    }

    public function test_a_thing_that_went_far_while_it_was_covered_is_found_again(): void
    {
        $motion = static fn(int $f): Matrix => Matrix::move($f < 4 ? 0 : 5.5 * ($f - 3), 0);
        $steps = self::follow(new MovingTexture($motion, covered: [4, 5, 6, 7, 8]), 12);
        foreach ([4, 5, 6, 7, 8] as $frame) {
            self::assertSame(State::Bridged, $steps[$frame]->state, "frame {$frame}");
        }
        self::assertSame(State::Followed, $steps[9]->state);
        [$x] = $steps[12]->matrix->inPixels(160)->apply(120, 80);
        self::assertEqualsWithDelta(120 + 5.5 * 9, $x, 0.6);
    }

    public function test_what_never_comes_back_stays_lost_where_it_was_seen_last(): void
    {
        $steps = self::follow(new MovingTexture(static fn(int $f): Matrix => Matrix::move(0.5 * $f, 0), covered: range(5, 14)), 14);
        foreach (range(5, 14) as $frame) {
            self::assertSame([State::Lost, 0.0], [$steps[$frame]->state, $steps[$frame]->confidence]);
            self::assertEqualsWithDelta($steps[4]->matrix->m, $steps[$frame]->matrix->m, 1e-12);
        }
    }

    public function test_confidence_falls_where_half_of_it_is_hidden_and_comes_back(): void
    {
        $texture = new MovingTexture(static fn(int $f): Matrix => Matrix::move(0.7 * $f, 0.2 * $f));
        $source = new Painted(static function (int $f, float $x, float $y) use ($texture): array {
            $v = $f >= 4 && $f <= 5 && $y > 88 ? 0.31 : $texture->place($f, $x, $y);

            return [$v, $v, $v];
        });
        $region = Still::matte(new Outline(0, [new Ellipse('s', [0.75, 0.5], [0.27, 0.27])]), $source->frame());
        $steps = iterator_to_array(RegionFollower::from($source, 0, $region, Model::Similarity)->to(8));
        self::assertSame([State::Followed, State::Followed], [$steps[4]->state, $steps[5]->state]);
        self::assertLessThan(0.85 * $steps[3]->confidence, $steps[4]->confidence);
        self::assertGreaterThan(0.9 * $steps[3]->confidence, $steps[7]->confidence);
    }

    public function test_the_discriminant_tells_two_colours_apart_along_what_differs_and_not_what_varies(): void
    {
        $random = Chance::seeded(9);
        $sets = [[], []];
        foreach ([0.3, 0.5] as $k => $red) {
            for ($i = 0; $i < 200; ++$i) {
                // Green varies much within each set, red differs between them.
                $sets[$k][] = [$red + $random->between(-0.02, 0.02), 0.5 + $random->between(-0.4, 0.4), 0.2 + $random->between(-0.02, 0.02)];
            }
        }
        $mix = Discriminant::between($sets[1], $sets[0]);
        self::assertGreaterThan(0.95, $mix[0]);
        self::assertLessThan(0.1, abs($mix[1]));
        self::assertEqualsWithDelta(1.0, hypot($mix[0], $mix[1]) ** 2 + $mix[2] ** 2, 1e-9);
        self::assertSame([0.2126, 0.7152, 0.0722], Discriminant::between([], $sets[0]));
    }
}
