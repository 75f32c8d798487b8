<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Recipe;

use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ease;
use Cossel\Core\Recipe\Key;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use PHPUnit\Framework\TestCase;

/** What changes over a shot. */
final class KeyedTest extends TestCase
{
    public function test_values_ease_between_keyframes_and_stand_still_beyond(): void
    {
        $keyed = static fn(Ease $ease): Keyed => new Keyed(9.0, [new Key(10, 1.0, $ease), new Key(20, 3.0, $ease)]);
        self::assertSame([1.0, 1.0, 3.0, 3.0], array_map($keyed(Ease::Smooth)->at(...), [0, 10, 20, 99]));
        self::assertEqualsWithDelta(1 + 2 * 0.2 ** 2 * (3 - 2 * 0.2), $keyed(Ease::Smooth)->at(12), 1e-12);
        self::assertEqualsWithDelta(1.4, $keyed(Ease::Linear)->at(12), 1e-12);
        self::assertSame(1.0, $keyed(Ease::Hold)->at(19));
        self::assertSame(9.0, (new Keyed(9.0))->at(5));
    }

    public function test_all_values_change_alike_or_become_one(): void
    {
        $keyed = new Keyed(1.0, [new Key(0, 1.0), new Key(9, 0.4)]);
        self::assertSame([0.5, 0.2], array_map($keyed->times(0.5)->at(...), [0, 9]));
        self::assertSame([0.7, []], [$keyed->evened()->value, $keyed->evened()->keys]);
    }

    public function test_a_live_span_fades_in_and_out(): void
    {
        $live = new Live(10, 30, 4, 2);
        self::assertSame([0.0, 1.0, 0.0], [$live->weight(9), $live->weight(20), $live->weight(31)]);
        self::assertGreaterThan($live->weight(10), $live->weight(12));
        self::assertLessThan(1.0, $live->weight(12));
        self::assertLessThan(1.0, $live->weight(30));
    }

    public function test_a_blink_guard_closes_with_the_lids_unless_told_otherwise(): void
    {
        $guard = new BlinkGuard(true);
        self::assertSame([0.0, 1.0, 1.0], [$guard->weight(3, 0.1), $guard->weight(3, 0.9), $guard->weight(3, null)]);
        self::assertGreaterThan(0.1, $guard->weight(3, 0.5));
        self::assertLessThan(0.9, $guard->weight(3, 0.5));
        self::assertSame(1.0, (new BlinkGuard())->weight(3, 0.0));
        self::assertSame(0.25, (new BlinkGuard(true, [new Key(0, 0.25), new Key(9, 0.25)]))->weight(3, 0.0));
    }
}
