<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Judge;

use Cossel\Core\Judge\Influence;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

/** What can change a pixel of an area changes its digest; what cannot does not. */
final class InfluenceTest extends TestCase
{
    /**
     * @param array<string, mixed> $changes
     *
     * @return array<string, mixed>
     */
    private static function area(string $id, float $x, array $changes = []): array
    {
        return Documents::area([
            'id' => $id,
            'name' => $id,
            'outline' => ['at' => 0, 'shapes' => [['id' => "s{$id}", 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.1, 0.15], 'featherIn' => 0.01, 'featherOut' => 0.02]]],
            'touches' => [['id' => "t{$id}", 'kind' => 'exposure', 'stops' => 0.5]],
            ...$changes,
        ]);
    }

    private static function digest(Recipe $recipe, string $id = 'own'): string
    {
        return Influence::digest($recipe, $id, new Motions($recipe, []));
    }

    /** @param array<string, mixed> $other */
    private static function beside(array $other): string
    {
        return self::digest(Documents::read(['areas' => [self::area('own', 0.4), $other]]));
    }

    public function test_its_own_settings_are_seen_in_it_its_name_is_not(): void
    {
        $of = static fn(array $changes): string => self::digest(Documents::read(['areas' => [self::area('own', 0.4, $changes)]]));
        $plain = $of([]);
        self::assertSame($plain, $of(['name' => 'Another', 'person' => 'dario', 'part' => 'lips']));
        foreach ([
            ['strength' => 0.5],
            ['live' => ['from' => 1, 'to' => 83]],
            ['touches' => [['id' => 'town', 'kind' => 'exposure', 'stops' => 0.51]]],
            ['touches' => []],
            ['on' => false],
            ['motion' => ['by' => 'none', 'keys' => [['frame' => 5, 'move' => [0.01, 0]]]]],
        ] as $i => $changes) {
            self::assertNotSame($plain, $of($changes), (string) $i);
        }
    }

    public function test_the_base_and_the_finish_are_seen_in_every_area(): void
    {
        $of = static fn(array $changes): string => self::digest(Documents::read(['areas' => [self::area('own', 0.4)], ...$changes]));
        self::assertNotSame($of([]), $of(['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.1]]]));
        self::assertNotSame($of([]), $of(['finish' => [['id' => 'f', 'kind' => 'exposure', 'stops' => 0.1]]]));
    }

    public function test_an_area_elsewhere_is_not_seen_in_it_one_over_it_is(): void
    {
        $alone = self::digest(Documents::read(['areas' => [self::area('own', 0.4)]]));
        self::assertSame($alone, self::beside(self::area('far', 1.4)));
        self::assertSame(self::beside(self::area('far', 1.4)), self::beside(self::area('far', 1.3, ['touches' => [['id' => 'x', 'kind' => 'exposure', 'stops' => -1]]])));
        self::assertNotSame($alone, self::beside(self::area('near', 0.55)));
        // Off, without touches, or never live while they meet: nothing of it is seen.
        self::assertSame($alone, self::beside(self::area('near', 0.55, ['on' => false])));
        self::assertSame($alone, self::beside(self::area('near', 0.55, ['touches' => []])));
    }

    public function test_an_area_that_acts_outside_is_seen_everywhere(): void
    {
        $around = self::area('far', 1.4, ['touches' => [['id' => 'x', 'kind' => 'exposure', 'stops' => -1, 'side' => 'outside']]]);
        self::assertNotSame(self::digest(Documents::read(['areas' => [self::area('own', 0.4)]])), self::beside($around));
    }

    public function test_an_area_that_only_passes_over_it_is_seen(): void
    {
        $passing = static fn(float $by): array => self::area('far', 1.5, ['motion' => ['by' => 'none', 'keys' => [['frame' => 0], ['frame' => 60, 'move' => [$by, 0]]]]]);
        $alone = self::digest(Documents::read(['areas' => [self::area('own', 0.4)]]));
        self::assertSame($alone, self::beside($passing(-0.3)));
        self::assertNotSame($alone, self::beside($passing(-1.0)));
        $gone = [...$passing(-1.0), 'live' => ['from' => 0, 'to' => 10]];
        self::assertSame($alone, self::beside($gone));
    }

    public function test_what_it_rides_on_is_seen_by_where_it_goes_not_by_what_is_done_there(): void
    {
        $riding = static fn(array $ridden): string => self::digest(Documents::read(['areas' => [self::area('far', 1.4, $ridden), self::area('own', 0.4, ['motion' => ['by' => 'ride', 'on' => 'far', 'keys' => []]])]]));
        $still = $riding([]);
        self::assertNotSame($still, $riding(['motion' => ['by' => 'none', 'keys' => [['frame' => 9, 'move' => [0.001, 0]]]]]));
        self::assertSame($still, $riding(['touches' => [['id' => 'x', 'kind' => 'exposure', 'stops' => -1]]]));
    }
}
