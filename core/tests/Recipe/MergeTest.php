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

    public function test_what_reads_like_the_same_number_is_another_name(): void
    {
        $base = ['areas' => [['id' => 'x', 'name' => '1', 'on' => true]]];
        $mine = $theirs = $base;
        $mine['areas'][0]['name'] = '01';
        $theirs['areas'][0]['on'] = false;
        self::assertSame([['id' => 'x', 'name' => '01', 'on' => false]], Merge::of($base, $mine, $theirs)['areas']);
        $theirs['areas'][0]['name'] = '1e0';
        $this->expectException(MergeConflict::class);
        Merge::of($base, $mine, $theirs);
    }

    public function test_numbers_are_the_same_by_what_they_are_worth_and_fields_in_any_order(): void
    {
        $base = ['a' => ['x' => 1, 'y' => null], 'b' => 0];
        self::assertSame(['a' => ['x' => 1, 'y' => null], 'b' => 3], Merge::of($base, ['a' => ['y' => null, 'x' => 1.0], 'b' => 0], ['a' => ['x' => 1, 'y' => null], 'b' => 3]));
        // Nothing is not no.
        self::assertSame(['on' => false], Merge::of(['on' => null], ['on' => false], ['on' => null]));
    }

    public function test_two_new_orders_are_a_conflict_and_the_same_one_is_none(): void
    {
        $of = static fn(string ...$ids): array => array_map(static fn(string $id): array => ['id' => $id], $ids);
        self::assertSame($of('c', 'a', 'b'), Merge::of($of('a', 'b', 'c'), $of('c', 'a', 'b'), $of('c', 'a', 'b')));
        self::assertSame($of('b', 'a', 'd'), Merge::of($of('a', 'b', 'c'), $of('b', 'a', 'c'), $of('a', 'b', 'd')));
        try {
            Merge::of(['areas' => $of('a', 'b', 'c')], ['areas' => $of('c', 'a', 'b')], ['areas' => $of('b', 'a', 'c')]);
            self::fail();
        } catch (MergeConflict $e) {
            self::assertSame('/areas', $e->pointer);
        }
    }
}
