<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/**
 * One face through the frames of footage: the mesh that is it on each. Frames on which it is not seen have none. It is told by its place
 * from one frame to the next, and by its descriptor where that is known and where it comes back from out of sight.
 */
final readonly class FollowedFace
{
    /** Frames a face may be out of sight and still be taken for the same by its place alone. */
    private const AWAY = 36;

    /** @param non-empty-array<int, Mesh> $meshes by frame, rising */
    private function __construct(private array $meshes) {}

    /**
     * The face that was pointed out; null where none is seen on that frame.
     *
     * @param array{float, float} $place on it, picture heights
     * @param float               $reach how far that may be from its middle, in its own size
     */
    public static function pointedOut(FaceSource $faces, array $place, int $frame, float $reach = INF): ?self
    {
        $best = null;
        foreach ($faces->on($frame) as $face) {
            [$x, $y] = $face->middle();
            $away = hypot($x - $place[0], $y - $place[1]) / max(1e-6, $face->size());
            if ($away < $reach) {
                [$best, $reach] = [$face, $away];
            }
        }

        return $best === null ? null : self::from($faces, $best, $frame);
    }

    /** @param Mesh $face on the start frame */
    public static function from(FaceSource $faces, Mesh $face, int $start): self
    {
        [$first, $last] = $faces->span();
        $found = [$start => $face] + self::on($faces, $face, range($start, $last)) + self::on($faces, $face, range($start, $first));
        ksort($found);

        return new self($found);
    }

    /**
     * The same face on frames that follow one another.
     *
     * @param Mesh                $face   on the first of them
     * @param non-empty-list<int> $frames
     *
     * @return array<int, Mesh> by frame, but for the first
     */
    private static function on(FaceSource $faces, Mesh $face, array $frames): array
    {
        $found = [];
        $seen = array_shift($frames);
        $last = $face;
        $own = $face->descriptor;
        // Whoever comes in where it went out of sight may be somebody else, until they are described.
        $doubtful = [];
        $isLost = false;
        foreach ($frames as $frame) {
            $there = $faces->on($frame);
            $away = abs($frame - $seen);
            $next = $isLost || $away > self::AWAY ? null : self::next($there, $last, $away);
            if ($own !== null && $next?->descriptor?->isOther($own)) {
                $found = array_diff_key($found, $doubtful);
                [$next, $doubtful, $isLost] = [null, [], true];
            }
            if ($next === null && $own !== null && ($isLost || $away > 1)) {
                $next = self::back($there, $own);
            }
            if ($next === null) {
                continue;
            }
            $doubtful = match (true) {
                $next->descriptor !== null => [],
                $away > 1 || $doubtful !== [] => $doubtful + [$frame => true],
                default => [],
            };
            // Of what it looked like, that which is nearest counts most.
            $own = $own === null || $next->descriptor === null ? $own ?? $next->descriptor : Descriptor::mean([$own, $next->descriptor]);
            [$found[$frame], $last, $seen, $isLost] = [$next, $next, $frame, false];
        }

        return $found;
    }

    /** @return non-empty-array<int, Mesh> by frame, rising */
    public function meshes(): array
    {
        return $this->meshes;
    }

    /** What it looks like; null where that was measured on none of its frames. */
    public function descriptor(): ?Descriptor
    {
        $all = array_filter(array_map(static fn(Mesh $mesh): ?Descriptor => $mesh->descriptor, array_values($this->meshes)));

        return $all === [] ? null : Descriptor::mean(array_values($all));
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
     * The face among several that is most like one that was out of sight.
     *
     * @param list<Mesh> $faces
     */
    private static function back(array $faces, Descriptor $own): ?Mesh
    {
        $best = null;
        $least = 1.0;
        foreach ($faces as $face) {
            $apart = $face->descriptor?->apart($own) ?? INF;
            if ($apart <= $least) {
                [$best, $least] = [$face, $apart];
            }
        }

        return $best;
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
