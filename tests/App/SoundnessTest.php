<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\Soundness;
use PHPUnit\Framework\TestCase;

/** What is missing of footage, worked out by hand; times in milliseconds at 25 frames a second. */
final class SoundnessTest extends TestCase
{
    public function test_whole_footage_says_nothing(): void
    {
        self::assertSame([], self::damage(range(0, 760, 40)));
        self::assertSame([], self::damage(range(0, 760, 40), claimed: 0.8));
        // A millisecond's rounding, as containers do it at 24 frames a second.
        $times = array_map(static fn(int $i): int => (int) round($i * 1000 / 24), range(0, 19));
        self::assertSame([], Soundness::damage($times, 0.001, 1 / 24, $times, 20 / 24, []));
    }

    public function test_holes_in_steady_footage_are_counted_and_placed(): void
    {
        $times = array_values(array_diff(range(0, 2000, 40), [400, 1200, 1240]));
        self::assertSame(['3 frames are missing: 1 after frame 9, 2 after frame 28.'], self::damage($times));
    }

    public function test_footage_whose_rate_varies_has_no_holes(): void
    {
        self::assertSame([], self::damage([0, 40, 120, 160, 240, 280, 360, 400, 480]));
    }

    public function test_what_the_container_has_and_the_decoder_did_not_give_is_missing(): void
    {
        $packets = range(0, 760, 40);
        self::assertSame(['2 frames are missing: 2 after frame 3.'], self::damage(array_values(array_diff($packets, [160, 200])), packets: $packets));
        // Packets that show nothing lie close to a frame; those after the last one are said of the end.
        self::assertSame([], self::damage(range(0, 760, 40), packets: [...range(0, 760, 40), 81, 161]));
    }

    public function test_an_early_end_is_told_with_the_last_frame(): void
    {
        self::assertSame(['The file ends early: by its own word it lasts 50 frames, and they end after frame 19.'], self::damage(range(0, 760, 40), claimed: 2.0));
        self::assertSame([], self::damage(range(0, 760, 40), claimed: 0.84));
    }

    public function test_a_long_list_is_cut(): void
    {
        self::assertSame(['The picture may be torn at frames 1, 3, 5, 7, 9, 11, 13, 15 and 2 more.'], self::damage(range(0, 760, 40), torn: range(1, 19, 2)));
        self::assertSame(['The picture may be torn at frame 4.'], self::damage(range(0, 760, 40), torn: [4]));
    }

    /**
     * @param list<int>      $times
     * @param list<int>|null $packets
     * @param list<int>      $torn
     *
     * @return list<string>
     */
    private static function damage(array $times, ?array $packets = null, ?float $claimed = null, array $torn = []): array
    {
        return Soundness::damage($times, 0.001, 0.04, $packets ?? $times, $claimed, $torn);
    }
}
