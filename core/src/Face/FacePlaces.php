<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** Where the face of one person is, on the frames it is seen on. */
final readonly class FacePlaces
{
    /** @param non-empty-array<int, FacePlace> $places by frame */
    private function __construct(private array $places) {}

    /**
     * Of the face that was pointed out; null where no face is seen on that frame.
     *
     * @param array{float, float} $place on it, picture heights
     */
    public static function pointedOut(FaceSource $faces, array $place, int $frame): ?self
    {
        $face = FollowedFace::pointedOut($faces, $place, $frame);

        return $face === null ? null : self::of($face);
    }

    public static function of(FollowedFace $face): self
    {
        return new self(array_map(FacePlace::of(...), $face->meshes()));
    }

    /** @param non-empty-list<array{int, float, float, float}> $numbers as {@see numbers} gives them */
    public static function known(array $numbers): self
    {
        $places = [];
        foreach ($numbers as [$frame, $x, $y, $size]) {
            $places[$frame] = new FacePlace($x, $y, $size);
        }

        return new self($places);
    }

    /** @return list<array{int, float, float, float}> frame, x, y and size */
    public function numbers(): array
    {
        $numbers = [];
        foreach ($this->places as $frame => $place) {
            $numbers[] = [$frame, $place->x, $place->y, $place->size];
        }

        return $numbers;
    }

    /** Where it is on a frame, or on the nearest one it is seen on. */
    public function near(int $frame): FacePlace
    {
        $nearest = array_key_first($this->places);
        foreach ($this->places as $number => $_) {
            if (abs($number - $frame) < abs($nearest - $frame)) {
                $nearest = $number;
            }
        }

        return $this->places[$nearest];
    }
}
