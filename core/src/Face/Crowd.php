<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The people of a shot, all of them or one, frame by frame. */
final class Crowd
{
    /** Faces that come into sight are looked for once in so many frames: for so long one may go unnoticed. */
    public const UNNOTICED = 6;

    /** @var array<string, FacePlaces|null> by the place their face was pointed out at */
    private array $known = [];

    public function __construct(private readonly PeopleSource $source) {}

    /**
     * @param array{float, float}|null $place on the person that is meant, picture heights; null for all
     * @param int                      $at    the frame the place is stated on
     */
    public function matte(int $frame, ?array $place, int $at): PeopleMatte
    {
        $matte = $this->source->matte($frame);
        $own = $place === null ? null : $this->places($place, $at);

        return $own === null ? $matte : $matte->person($own->near($frame), $this->others($own, $frame));
    }

    /** @param array{float, float} $place */
    private function places(array $place, int $at): ?FacePlaces
    {
        $key = "{$place[0]} {$place[1]} {$at}";
        if (!array_key_exists($key, $this->known)) {
            $this->known[$key] = $this->source->places($place, $at);
        }

        return $this->known[$key];
    }

    /** @return list<FacePlace> where other faces are; of those that are not noticed where they were a moment before or will be */
    private function others(FacePlaces $own, int $frame): array
    {
        $faces = $this->source->faces($frame - self::UNNOTICED, $frame + self::UNNOTICED);
        $people = [$own];
        for ($k = 0; $k <= self::UNNOTICED; ++$k) {
            foreach ([$frame - $k, $frame + $k] as $number) {
                foreach ($faces->on($number) as $face) {
                    $place = FacePlace::of($face);
                    if (array_filter($people, static fn(FacePlaces $one): bool => $place->isNear($one->near($number))) === []) {
                        $people[] = FacePlaces::of(FollowedFace::from($faces, $face, $number));
                    }
                }
            }
        }
        $here = array_map(static fn(FacePlaces $one): FacePlace => $one->near($frame), $people);

        // Somebody who went behind the one who is meant may have been taken for them.
        return array_values(array_filter($here, static fn(FacePlace $place): bool => !$place->isNear($here[0])));
    }
}
