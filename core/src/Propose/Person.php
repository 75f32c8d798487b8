<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Recipe\Live;

/**
 * Finds the people on a frame: what the landmarks of faces say is looked up in the picture and checked there; a face whose eyes and
 * mouth are not found is none, and where there is none eyes are looked for alone. What is proposed are ordinary areas, to be
 * corrected like any other. First file to read of this folder.
 */
final class Person
{
    /** Share of a face that must look like one skin where its eyes are closed or hidden. */
    private const ONE_SKIN = 0.75;
    /** And by how many spreads of the skin its lips must stand out then. */
    private const CLEAR = 3.0;

    /**
     * @param list<Landmarks>          $faces  that may be
     * @param callable(string): string $id     a free id that begins with the given letter
     *
     * @return list<FoundPerson> from left to right
     */
    public static function found(FrameSource $source, array $faces, int $frame, Live $live, callable $id): array
    {
        $source = Quiet::of($source, $frame);
        $seen = array_map(static fn(Landmarks $face): Face => Face::seen($source, $face, $frame), $faces);
        $seen = array_filter($seen, static fn(Face $face): bool => $face->marks->mesh?->isSure() || !$face->isEye($source, $frame));
        $sure = array_filter($seen, static fn(Face $face): bool => count($face->openEyes()) === 2);
        $eyes = $sure === [] ? Eyes::alone($source, $frame) : [];
        $found = array_values(array_filter($seen, static fn(Face $face): bool => match (true) {
            count($face->openEyes()) === 2 || $face->marks->mesh?->isSure() => true,
            // With two open eyes elsewhere, what looked like a face is none.
            count($eyes) === 2 && !$face->hasEyeOf($eyes) => false,
            count($face->openEyes()) === 1 => $face->mouth->sure(),
            default => $eyes === [] && $face->mouth->sure() && $face->mouth->apart > self::CLEAR && $face->oneSkin > self::ONE_SKIN,
        }));
        $people = array_map(static function (Face $face) use ($source, $frame, $live, $id): FoundPerson {
            $areas = new FaceAreas($source, $face, $frame, $live, $id);
            $open = $face->openEyes();

            // A close-up of eyes: a face that is outside the frame cannot carry them.
            return count($open) === 2 && !$areas->isSeenWhole()
                ? (new EyeAreas($source, $frame, $live, $id))->proposed($open)
                : $areas->proposed();
        }, $found);
        if ($found === [] && $eyes !== []) {
            $people[] = (new EyeAreas($source, $frame, $live, $id))->proposed($eyes);
        }
        usort($people, static fn(FoundPerson $a, FoundPerson $b): int => $a->box[0] <=> $b->box[0]);

        return $people;
    }
}
