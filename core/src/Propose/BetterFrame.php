<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Shape;

/** What is doubtful of somebody on one frame, as it is surely seen on another: closed eyes open, a shut mouth smiling. */
final class BetterFrame
{
    /**
     * @param FoundPerson $there the same one, on the other frame
     *
     * @return FoundPerson whose doubtful proposals of these parts are outlined on the other frame, where they are sure there
     */
    public static function taken(FoundPerson $here, FoundPerson $there, Part ...$parts): FoundPerson
    {
        $isSure = static fn(Proposal $p): bool => $p->doubt === null && $p->area->is(...$parts);
        $sure = self::byName(array_filter($there->proposals, $isSure));
        $own = self::byName($here->proposals);
        $names = array_flip(array_map(static fn(Area $area): string => $area->id, self::byName($there->proposals)));
        $taken = array_map(static function (Proposal $p) use ($sure, $own, $names, $parts): Proposal {
            $better = $p->doubt !== null && $p->area->is(...$parts) ? $sure[$p->area->name] ?? null : null;
            if ($better === null) {
                return $p;
            }
            // What it is made of are this frame's areas of the same names.
            $renamed = static fn(Shape $shape): Shape => $shape instanceof AreaShape && isset($own[$names[$shape->of] ?? ''])
                ? new AreaShape($shape->id, $own[$names[$shape->of]]->id, $shape->opacity, $shape->join, $shape->keys)
                : $shape;

            return new Proposal($p->area->withOutline($better->outline->withShapes($renamed)));
        }, $here->proposals);

        return new FoundPerson($here->whole, $here->box, $taken, $here->face, $here->more);
    }

    /** Whether something of these parts is doubtful. */
    public static function isWanted(FoundPerson $person, Part ...$parts): bool
    {
        return array_filter($person->proposals, static fn(Proposal $p): bool => $p->doubt !== null && $p->area->is(...$parts)) !== [];
    }

    /**
     * @param array<Proposal> $proposals
     *
     * @return array<string, Area>
     */
    private static function byName(array $proposals): array
    {
        return array_column(array_map(static fn(Proposal $p): Area => $p->area, $proposals), null, 'name');
    }
}
