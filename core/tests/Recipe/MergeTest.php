<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Recipe;

use Cossel\Core\Recipe\Merge;
use Cossel\Core\Recipe\MergeConflict;
use PHPUnit\Framework\TestCase;

final class MergeTest extends TestCase
{
    private const BASE = ['base' => [['id' => 'b', 'stops' => 0]], 'areas' => [['id' => 'x', 'name' => 'X', 'on' => true], ['id' => 'y', 'name' => 'Y', 'on' => true]]];

    public function test_edits_in_different_places_both_count(): void
    {
        $mine = $theirs = self::BASE;
        $mine['base'][0]['stops'] = 1;
        $theirs['areas'][1]['on'] = false;
        $theirs['areas'][] = ['id' => 'z', 'name' => 'Z', 'on' => true];
        $merged = Merge::of(self::BASE, $mine, $theirs);
        self::assertSame(1, $merged['base'][0]['stops']);
        self::assertSame([true, false, true], array_column($merged['areas'], 'on'));
    }

    public function test_what_one_removed_and_the_other_left_alone_is_gone(): void
    {
        $mine = $theirs = self::BASE;
        array_shift($mine['areas']);
        $theirs['base'][0]['stops'] = 2;
        $merged = Merge::of(self::BASE, $mine, $theirs);
        self::assertSame(['y'], array_column($merged['areas'], 'id'));
        self::assertSame(2, $merged['base'][0]['stops']);
    }

    public function test_a_new_order_is_kept(): void
    {
        $mine = $theirs = self::BASE;
        $mine['areas'] = array_reverse($mine['areas']);
        $theirs['areas'][0]['name'] = 'Other';
        $merged = Merge::of(self::BASE, $mine, $theirs);
        self::assertSame([['y', 'Y'], ['x', 'Other']], array_map(static fn(array $a): array => [$a['id'], $a['name']], $merged['areas']));
    }

    public function test_the_same_place_changed_differently_is_a_conflict_with_its_place(): void
    {
        $mine = $theirs = self::BASE;
        $mine['areas'][0]['name'] = 'A';
        $theirs['areas'][0]['name'] = 'B';
        try {
            Merge::of(self::BASE, $mine, $theirs);
            self::fail();
        } catch (MergeConflict $e) {
            self::assertSame('/areas/x/name', $e->pointer);
        }
    }

    public function test_removed_here_and_changed_there_is_a_conflict(): void
    {
        $mine = $theirs = self::BASE;
        array_shift($mine['areas']);
        $theirs['areas'][0]['on'] = false;
        $this->expectException(MergeConflict::class);
        Merge::of(self::BASE, $mine, $theirs);
    }
}
