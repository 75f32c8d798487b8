<?php

declare(strict_types=1);

namespace Tests\App;

use App\Treatment\Notes;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Notes that two people change at once. */
final class NotesMergeTest extends TestCase
{
    /** @return iterable<string, array{string, string, string, string}> as seen, as it is, as it is to be, what becomes of it */
    public static function changes(): iterable
    {
        yield 'nobody else wrote' => ['a', 'a', 'a/b', 'a/b'];
        yield 'nothing of mine' => ['a', 'a/b', 'a', 'a/b'];
        yield 'both the same' => ['a', 'a/b', 'a/b', 'a/b'];
        yield 'both add at the end' => ['a', 'a/b', 'a/c', 'a/b/c'];
        yield 'both begin' => ['', 'b', 'c', 'b/c'];
        yield 'theirs above mine' => ['a/b/c', 'A/b/c', 'a/b/C', 'A/b/C'];
        yield 'theirs below mine' => ['a/b/c', 'a/b/C', 'A/b/c', 'A/b/C'];
        yield 'they take out, I add elsewhere' => ['a/b/c', 'b/c', 'a/b/c/d', 'b/c/d'];
        yield 'neighbours' => ['a/b', 'A/b', 'a/B', 'A/B'];
        yield 'neighbours, the other way' => ['a/b', 'a/B', 'A/b', 'A/B'];
        yield 'the same line' => ['a/b/c', 'a/x/c', 'a/y/c', 'a/x/c/y'];
        yield 'they emptied it, I added' => ['a/b', '', 'a/b/c', 'c'];
        yield 'they added, I emptied it' => ['a', 'a/b', '', 'b'];
    }

    #[DataProvider('changes')]
    public function test_what_each_changed_holds(string $base, string $theirs, string $mine, string $merged): void
    {
        $text = static fn(string $lines): string => str_replace('/', "\n", $lines);
        self::assertSame($text($merged), Notes::merged($text($base), $text($theirs), $text($mine)));
    }

    public function test_no_line_that_anybody_wrote_is_ever_lost(): void
    {
        mt_srand(5);
        $change = static function (array $lines, string $by): array {
            for ($n = mt_rand(1, 4); $n > 0; --$n) {
                array_splice($lines, mt_rand(0, count($lines)), mt_rand(0, 2), ["{$by} " . mt_rand(0, 999)]);
            }

            return $lines;
        };
        for ($round = 0; $round < 500; ++$round) {
            $base = array_map(static fn(int $i): string => "line {$i}", range(1, mt_rand(1, 8)));
            [$theirs, $mine] = [$change($base, 'theirs'), $change($base, 'mine')];
            $merged = explode("\n", Notes::merged(implode("\n", $base), implode("\n", $theirs), implode("\n", $mine)));
            self::assertSame([], array_diff([...array_diff($theirs, $base), ...array_diff($mine, $base)], $merged));
        }
    }
}
