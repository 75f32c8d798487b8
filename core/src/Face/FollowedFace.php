<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** One face through the frames of footage: the mesh that is it on each. Frames on which it is not seen have none. */
final readonly class FollowedFace
{
    /** Frames a face may be out of sight and still be taken for the same by its place. */
    private const AWAY = 36;

    /** @param non-empty-array<int, Mesh> $meshes by frame, rising */
    private function __construct(private array $meshes) {}

    /** @param Mesh $face on the start frame */
    public static function from(FaceSource $faces, Mesh $face, int $start): self
    {
        [$first, $last] = $faces->span();
        $found = [$start => $face];
        foreach ([[$start + 1, $last, 1], [$start - 1, $first, -1]] as [$from, $to, $step]) {
            $seen = $start;
            for ($frame = $from; $step * ($to - $frame) >= 0 && abs($frame - $seen) <= self::AWAY; $frame += $step) {
                $next = self::next($faces->on($frame), $found[$seen], abs($frame - $seen));
                if ($next !== null) {
                    $found[$frame] = $next;
                    $seen = $frame;
                }
            }
        }
        ksort($found);

        return new self($found);
    }

    /** @return non-empty-array<int, Mesh> by frame, rising */
    public function meshes(): array
    {
        return $this->meshes;
    }

    /**
     * Where points of a part that moves as one are, made steady.
     *
     * @param non-empty-list<int> $points of the mesh
     *
     * @return array<int, list<array{float, float}>> by frame, picture heights
     */
    public function steady(array $points): array
    {
        $rows = array_map(static fn(Mesh $mesh): array => array_merge(...array_map($mesh->at(...), $points)), $this->meshes);

        return array_map(static fn(array $row): array => array_chunk($row, 2), Steadied::runs($rows));
    }

    /**
     * The face among several that another one was some frames before.
     *
     * @param list<Mesh> $faces
     */
    private static function next(array $faces, Mesh $before, int $frames): ?Mesh
    {
        $was = FacePlace::of($before);
        $best = null;
        $least = INF;
        foreach ($faces as $face) {
            $is = FacePlace::of($face);
            $away = hypot($is->x - $was->x, $is->y - $was->y) + abs($is->size - $was->size);
            if ($is->isNear($was, $frames) && $away < $least) {
                [$best, $least] = [$face, $away];
            }
        }

        return $best;
    }
}
