<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Faces\Faces;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use Cossel\Core\Carry\Likeness;

/** The shots somebody of a job is probably seen in, by their face. Only a guess, for the user to look at. */
final class LikelyShots
{
    public function __construct(private readonly Faces $faces, private readonly KnownPeople $known) {}

    /**
     * Shots in which nothing of that person is outlined yet.
     *
     * @return array<int, int> the frame they are seen on first, by shot
     */
    public function of(Job $job, string $person): array
    {
        $one = $job->people()->where('slug', $person)->first();
        $likeness = $one === null ? null : $this->known->likeness($job, $one);
        $frames = [];
        foreach ($likeness === null ? [] : $job->shots()->where('state', ShotState::Ready)->with(['footage', 'presentRevision'])->get() as $shot) {
            $isKnown = in_array($person, array_column($shot->presentRevision->document()['areas'] ?? [], 'person'), true);
            $frame = $isKnown ? null : $this->frame($shot, $likeness);
            if ($frame !== null) {
                $frames[$shot->id] = $frame;
            }
        }

        return $frames;
    }

    private function frame(Shot $shot, Likeness $person): ?int
    {
        foreach ($this->faces->seen($shot->readyFootage()->file(), $shot->from, $shot->to) as $seen) {
            $here = Likeness::of([], $seen->descriptor);
            if ($here !== null && $person->isOfFaces($here) && $person->apart($here) <= 1.0) {
                return $seen->frame;
            }
        }

        return null;
    }
}
