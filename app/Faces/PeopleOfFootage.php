<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FootageFile;
use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Face\PeopleSource;

/** The people of footage, measured where they were not yet when they are asked for. */
final class PeopleOfFootage implements PeopleSource
{
    /** Frames measured together from one on that was not yet: whoever asks for one goes on to the next. */
    private const RUN = 12;

    private ?FaceSource $all = null;

    public function __construct(private readonly Faces $faces, private readonly FootageFile $footage) {}

    public function matte(int $frame): PeopleMatte
    {
        $last = $this->footage->info->frames() - 1;

        return $this->faces->people($this->footage, $frame, min($last, $frame + self::RUN - 1));
    }

    public function faces(): FaceSource
    {
        return $this->all ??= $this->faces->through($this->footage, 0, $this->footage->info->frames() - 1);
    }
}
