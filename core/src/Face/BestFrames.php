<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The frames that show parts of a face best, of those that were measured. */
final class BestFrames
{
    /** Lips further apart than this, in breadths of the mouth, may show teeth. */
    private const PARTED = 0.06;
    /** Both eyes open from here on, in lengths of the eye. */
    private const OPEN = 0.16;

    /**
     * @return array{teeth: int|null, eyes: int|null} where the mouth is open widest, and where the eye that is less open is open widest;
     *                                                null where they never are
     */
    public static function of(FollowedFace $face): array
    {
        $meshes = $face->meshes();

        return [
            'teeth' => self::most($meshes, static fn(Mesh $mesh): float => $mesh->lipsApart(), self::PARTED),
            'eyes' => self::most($meshes, static fn(Mesh $mesh): float => min($mesh->lidsApart(true), $mesh->lidsApart(false)), self::OPEN),
        ];
    }

    /**
     * @param array<int, Mesh>      $meshes
     * @param \Closure(Mesh): float $open
     */
    private static function most(array $meshes, \Closure $open, float $least): ?int
    {
        $best = null;
        foreach ($meshes as $frame => $mesh) {
            $now = $open($mesh);
            if ($now > $least) {
                [$best, $least] = [$frame, $now];
            }
        }

        return $best;
    }
}
