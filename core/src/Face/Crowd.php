<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The people of footage, all of them or one, frame by frame. */
final class Crowd
{
    /** @var array<string, FollowedFace|null> by the place their face was pointed out at */
    private array $known = [];

    public function __construct(private readonly PeopleSource $source) {}

    /**
     * @param array{float, float}|null $place on the person that is meant, picture heights; null for all
     * @param int                      $at    the frame the place is stated on
     */
    public function matte(int $frame, ?array $place, int $at): PeopleMatte
    {
        $matte = $this->source->matte($frame);
        if ($place === null) {
            return $matte;
        }
        $faces = $this->source->faces()->on($frame);
        $key = "{$place[0]} {$place[1]} {$at}";
        if (!array_key_exists($key, $this->known)) {
            $this->known[$key] = $this->followed($place, $at);
        }
        $own = $this->known[$key]?->near($frame);
        if ($own === null) {
            return $matte;
        }

        return $matte->person($own, array_values(array_filter($faces, static fn(Mesh $face): bool => !$face->isNear($own))));
    }

    /** @param array{float, float} $place */
    private function followed(array $place, int $at): ?FollowedFace
    {
        $faces = $this->source->faces();
        $best = null;
        $least = INF;
        foreach ($faces->on($at) as $face) {
            [$x, $y] = $face->middle();
            $away = hypot($x - $place[0], $y - $place[1]) / max(1e-6, $face->size());
            if ($away < $least) {
                [$best, $least] = [$face, $away];
            }
        }

        return $best === null ? null : FollowedFace::from($faces, $best, $at);
    }
}
