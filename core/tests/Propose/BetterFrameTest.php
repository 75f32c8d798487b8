<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Propose;

use Cossel\Core\Propose\BetterFrame;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use PHPUnit\Framework\TestCase;

/** Closed eyes and shut mouths are taken from the frame that shows them. */
final class BetterFrameTest extends TestCase
{
    /** @param array<string, string> $doubts by name */
    private static function person(string $n, int $at, array $doubts): FoundPerson
    {
        $area = static fn(string $name, Part $part, AreaShape ...$made): Proposal => new Proposal(
            new Area(
                "{$n}{$name}",
                $name,
                $part->value,
                null,
                true,
                new Outline($at, [new Ellipse("{$n}s{$name}", [0.5, 0.5], [0.1, 0.1]), ...$made]),
                $part === Part::Face ? new Motion() : new Motion(by: Motion::RIDE, on: "{$n}Face"),
                new Live(0, 90),
                new Keyed(1.0),
                new BlinkGuard(),
                [],
            ),
            $doubts[$name] ?? null,
        );

        return new FoundPerson(true, [0.1, 0.1, 0.5, 0.5], [
            $area('Face', Part::Face),
            $area('Left lids', Part::Lids),
            $area('Left iris', Part::Iris, new AreaShape("{$n}k", "{$n}Left lids")),
            $area('Teeth', Part::Teeth),
        ]);
    }

    public function test_doubtful_parts_are_outlined_where_they_are_sure(): void
    {
        $here = self::person('h', 12, ['Left lids' => 'the eye is nearly closed', 'Left iris' => 'the eye is nearly closed', 'Teeth' => 'the mouth is closed']);
        $there = self::person('t', 40, ['Teeth' => 'no teeth are seen in the mouth']);
        self::assertTrue(BetterFrame::isWanted($here, Part::Iris, Part::Lids));
        self::assertFalse(BetterFrame::isWanted($here, Part::Face));
        $taken = BetterFrame::taken($here, $there, Part::Iris, Part::Lids);
        self::assertSame(
            [['hFace', 12, null], ['hLeft lids', 40, null], ['hLeft iris', 40, null], ['hTeeth', 12, 'the mouth is closed']],
            array_map(static fn(Proposal $p): array => [$p->area->id, $p->area->outline->at, $p->doubt], $taken->proposals),
        );
        // It stays on this frame's head and is made of this frame's areas.
        $iris = $taken->proposals[2]->area;
        self::assertSame(['hFace', 'hLeft lids'], [$iris->motion->on, $iris->outline->shapes[1] instanceof AreaShape ? $iris->outline->shapes[1]->of : null]);
        // What is doubtful there, too, stays what it is; so does what was not asked for.
        self::assertEquals($taken, BetterFrame::taken($taken, $there, Part::Teeth));
        self::assertEquals($here, BetterFrame::taken($here, $there, Part::Face));
    }
}
