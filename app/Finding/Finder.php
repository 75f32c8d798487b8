<?php

declare(strict_types=1);

namespace App\Finding;

use App\Faces\CannotFindFaces;
use App\Faces\Faces;
use App\Faces\MeasuredFaces;
use App\Faces\TurnedFaces;
use App\Footage\FollowedFootage;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Face\BestFrames;
use Cossel\Core\Face\FacePlace;
use Cossel\Core\Face\FollowedFace;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Propose\BetterFrame;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Landmarks;
use Cossel\Core\Propose\Person;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Part;

/** Who is on frames of footage, with the areas proposed for them. */
final class Finder
{
    /** A face that is smaller than this is looked at in a larger picture, pixels; and rows of the largest. */
    private const SMALL = 150;
    /** People looked for on a frame at the most, the largest first: each takes a second or two. */
    public const MOST = 8;
    private const ROWS = 1080;
    /** What the frames that show teeth and eyes best are good for. */
    private const PARTS = ['teeth' => [Part::Teeth], 'eyes' => [Part::Lids, Part::Iris]];

    public function __construct(private readonly Faces $faces, private readonly TurnedFaces $turned, private readonly FrameCache $frames) {}

    /**
     * @param list<int>                $numbers frames
     * @param callable(string): string $newId   from its first letter
     *
     * @return array<int, list<FoundPerson>> by frame
     *
     * @throws CannotFindFaces
     */
    public function on(FootageFile $footage, array $numbers, Live $live, callable $newId): array
    {
        $people = [];
        foreach ($this->faces($footage, $numbers) as $number => $faces) {
            usort($faces, static fn(Landmarks $a, Landmarks $b): int => $b->width() <=> $a->width());
            $faces = array_slice($faces, 0, self::MOST);
            $rows = self::rows($faces, min(self::ROWS, $footage->info->height));
            $people[$number] = Person::found(new FollowedFootage($this->frames, $footage, $rows), $faces, $number, $live, $newId);
        }

        return $people;
    }

    /**
     * People of a frame, with what is doubtful of them taken from the frames of the shot that show it best.
     *
     * @param list<FoundPerson>        $people found on the frame
     * @param MeasuredFaces            $seen   as far as they were measured
     * @param callable(string): string $newId  from its first letter
     *
     * @return list<array{FoundPerson, array{teeth: int|null, eyes: int|null}}> each with the frames that show teeth and eyes best
     *
     * @throws CannotFindFaces
     */
    public function better(FootageFile $footage, array $people, int $frame, MeasuredFaces $seen, Live $live, callable $newId): array
    {
        $others = [];
        $better = [];
        foreach ($people as $one) {
            $best = ['teeth' => null, 'eyes' => null];
            if ($one->face !== null) {
                $face = FollowedFace::from($seen, $one->face, $frame);
                $best = BestFrames::of($face);
                foreach ($best as $part => $other) {
                    if ($other === null || $other === $frame || !BetterFrame::isWanted($one, ...self::PARTS[$part])) {
                        continue;
                    }
                    $others[$other] ??= $this->on($footage, [$other], $live, $newId)[$other];
                    $there = self::same($others[$other], $face->meshes()[$other]);
                    $one = $there === null ? $one : BetterFrame::taken($one, $there, ...self::PARTS[$part]);
                }
            }
            $better[] = [$one, $best];
        }

        return $better;
    }

    /** @param list<FoundPerson> $people */
    private static function same(array $people, Mesh $face): ?FoundPerson
    {
        foreach ($people as $one) {
            if ($one->face !== null && FacePlace::of($one->face)->isNear(FacePlace::of($face))) {
                return $one;
            }
        }

        return null;
    }

    /**
     * @param list<int> $numbers frames
     *
     * @return array<int, list<Landmarks>> by frame
     */
    private function faces(FootageFile $footage, array $numbers): array
    {
        $faces = [];
        foreach ($numbers as $number) {
            $faces[$number] = array_map(Landmarks::ofMesh(...), $this->faces->on($footage, $number));
        }
        $empty = array_keys(array_filter($faces, static fn(array $on): bool => $on === []));

        return $empty === [] ? $faces : $this->turned->on($footage, $empty) + $faces;
    }

    /** @param list<Landmarks> $faces */
    private static function rows(array $faces, int $most): int
    {
        $least = min([INF, ...array_map(static fn(Landmarks $face): float => $face->width(), $faces)]);

        return $least * FollowedFootage::HEIGHT > self::SMALL ? FollowedFootage::HEIGHT : max(FollowedFootage::HEIGHT, $most);
    }
}
