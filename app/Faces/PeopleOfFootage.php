<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FootageFile;
use Cossel\Core\Face\FacePlaces;
use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Face\PeopleSource;

/** The people of a shot, measured where they were not yet when they are asked for. */
final class PeopleOfFootage implements PeopleSource
{
    /** Frames measured together from one on that was not yet: whoever asks for one goes on to the next. */
    private const RUN = 12;

    /** @param array{int, int} $span of the shot */
    public function __construct(private readonly Faces $faces, private readonly FootageFile $footage, private readonly array $span) {}

    public function matte(int $frame): PeopleMatte
    {
        return $this->faces->people($this->footage, $frame, min($this->last(), $frame + self::RUN - 1));
    }

    public function faces(int $from, int $to): FaceSource
    {
        // Where the shot begins and ends nothing is known of who goes where beyond.
        $middle = intdiv($from + $to, 2);

        return $this->faces->through($this->footage, max($from, min($this->span[0], $middle)), min($this->last(), $to, max($this->span[1], $middle)));
    }

    public function places(array $place, int $frame): ?FacePlaces
    {
        [$from, $to] = $this->span;

        return $this->faces->places($this->footage, min($from, $frame), min($this->last(), max($to, $frame)), $place, $frame);
    }

    private function last(): int
    {
        return $this->footage->info->frames() - 1;
    }
}
