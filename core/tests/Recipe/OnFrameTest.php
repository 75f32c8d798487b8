<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Recipe;

use Cossel\Core\Recipe\OnFrame;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class OnFrameTest extends TestCase
{
    /** @return iterable<string, array{bool, array<string, mixed>, array<string, mixed>}> whether both give the same picture of frame 10, and their areas */
    public static function pairs(): iterable
    {
        $keyed = static fn(float $later): array => ['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => ['value' => 1, 'keys' => [['frame' => 10, 'value' => 1], ['frame' => 20, 'value' => $later]]]]]];
        yield 'a name' => [true, ['name' => 'Face'], ['name' => 'Head']];
        yield 'a value' => [false, [], ['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 0.9]]]];
        yield 'a key elsewhere, with the value as it is here' => [true, $keyed(2), $keyed(0)];
        yield 'a key that is felt here' => [false, $keyed(2), ['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => ['value' => 1, 'keys' => [['frame' => 5, 'value' => 0], ['frame' => 20, 'value' => 2]]]]]]];
        yield 'what is not live here' => [true, ['live' => ['from' => 20, 'to' => 83]], ['live' => ['from' => 30, 'to' => 83], 'touches' => []]];
        yield 'what fades in here' => [false, [], ['live' => ['from' => 10, 'to' => 83, 'fadeIn' => 3]]];
        yield 'a touch that is switched off' => [true, ['touches' => []], ['touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1, 'on' => false]]]];
        yield 'an outline that changes later' => [false, [], ['outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.31]]]]]];
    }

    /**
     * @param array<string, mixed> $one
     * @param array<string, mixed> $other
     */
    #[DataProvider('pairs')]
    public function test_recipes_have_one_digest_where_they_give_one_picture(bool $same, array $one, array $other): void
    {
        [$a, $b] = array_map(static fn(array $changes): string => OnFrame::digest(Documents::read(['areas' => [Documents::area($changes)]]), 10), [$one, $other]);
        self::assertSame($same, $a === $b);
    }

    public function test_what_acts_brings_along_what_it_rides_on_and_is_made_of(): void
    {
        $with = static fn(float $x): string => OnFrame::digest(Documents::read(['areas' => [
            Documents::area(['id' => 'lead', 'touches' => [], 'motion' => ['by' => 'none', 'keys' => [['frame' => 10, 'move' => [$x, 0]]]]]),
            Documents::area(['id' => 'rider', 'outline' => ['at' => 0, 'shapes' => [['id' => 'r1', 'kind' => 'ellipse', 'centre' => [0.4, 0.5], 'radii' => [0.2, 0.2]]]], 'motion' => ['by' => 'ride', 'on' => 'lead']]),
        ]]), 10);
        self::assertNotSame($with(0.0), $with(0.1));
        $alone = static fn(float $x): string => OnFrame::digest(Documents::read(['areas' => [Documents::area(['touches' => [], 'motion' => ['by' => 'none', 'keys' => [['frame' => 10, 'move' => [$x, 0]]]]])]]), 10);
        self::assertSame($alone(0.0), $alone(0.1));
    }
}
