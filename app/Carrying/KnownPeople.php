<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Faces\FaceMeter;
use App\Faces\Faces;
use App\Models\Job;
use App\Models\Person;
use App\Models\Revision;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Carry\Likeness;
use Cossel\Core\Propose\FoundPerson;

/** Whether somebody found on a frame is somebody of the job, by what they look like on other shots. Only a guess, for the user to confirm. */
final class KnownPeople
{
    public function __construct(private readonly People $people, private readonly Recipes $recipes, private readonly Tracks $tracks, private readonly Faces $faces) {}

    /**
     * @param list<FoundPerson> $found on a frame of the shot
     *
     * @return list<array{person: string, by: 'face'|'colours'}|null> the slug of each, and what they are known by; none twice
     */
    public function guessed(Shot $shot, int $frame, array $found): array
    {
        $known = array_filter($this->known($shot->job));
        $scene = new Scene($shot->readyFootage()->file(), $this->recipes->recipe($shot));
        $pairs = [];
        foreach ($known === [] ? [] : $found as $i => $one) {
            $here = $this->people->found($scene, $frame, $one);
            foreach ($here === null ? [] : $known as $slug => $likeness) {
                $apart = $likeness->apart($here);
                if ($apart !== null && $apart <= 1.0) {
                    // What faces tell is surer than what colours do.
                    $pairs[] = [!$likeness->isOfFaces($here), $apart, $i, (string) $slug];
                }
            }
        }
        sort($pairs);
        $guessed = array_fill(0, count($found), null);
        foreach ($pairs as [$isByColours, , $i, $slug]) {
            if ($guessed[$i] === null && !in_array($slug, array_column(array_filter($guessed), 'person'), true)) {
                $guessed[$i] = ['person' => $slug, 'by' => $isByColours ? 'colours' : 'face'];
            }
        }

        return array_values($guessed);
    }

    /** @return array<string, Likeness|null> by slug */
    private function known(Job $job): array
    {
        $known = [];
        foreach ($job->people as $person) {
            $known[$person->slug] = $this->likeness($job, $person);
        }

        return $known;
    }

    /** From the first shot that shows their face, or else enough of them; looked at again when that has changed. Null where none does. */
    public function likeness(Job $job, Person $person): ?Likeness
    {
        $shots = $this->shots($job, $person->slug);
        if (isset($shots[$person->likeness['of'] ?? ''])) {
            return Likeness::known($person->likeness);
        }
        $best = null;
        foreach ($shots as $of => $shot) {
            $recipe = $this->recipes->recipe($shot);
            $likeness = $this->people->outlined(new Scene($shot->readyFootage()->file(), $recipe, $this->tracks->of($recipe)), $person->slug);
            if ($likeness !== null && ($best === null || $likeness->isOfFaces($likeness))) {
                $best = $likeness;
                $person->update(['likeness' => ['of' => $of, ...$likeness->document()]]);
            }
            if ($best?->isOfFaces($best)) {
                break;
            }
        }

        return $best;
    }

    /** @return array<string, Shot> that show somebody, by what a likeness is of that is taken from there */
    private function shots(Job $job, string $person): array
    {
        $shots = [];
        foreach ($job->shots()->where('state', ShotState::Ready)->with(['footage', 'presentRevision'])->get() as $shot) {
            $isMeasured = $this->faces->missing($shot->readyFootage()->file(), $shot->from, $shot->to, 1) === [];
            if (self::shows($shot->presentRevision, $person, $isMeasured)) {
                $shots["{$shot->id} {$shot->revision} " . ($isMeasured ? FaceMeter::method() : '-')] = $shot;
            }
        }
        // Another shot may show more of them.
        $count = count($shots);

        return array_combine(array_map(static fn(string $of): string => "{$of} of {$count}", array_keys($shots)), $shots);
    }

    /** Whether something to know them by is outlined: some part of a face that was measured, or the face and parts whose colours tell. */
    private static function shows(Revision $revision, string $person, bool $isMeasured): bool
    {
        $parts = array_column(array_filter($revision->document()['areas'] ?? [], static fn(array $area): bool => ($area['person'] ?? null) === $person), 'part');

        $isSeen = static fn(string ...$some): bool => array_intersect($parts, $some) !== [];

        return $isMeasured ? $isSeen('face', 'skin', 'iris', 'lids', 'lips', 'teeth') : $isSeen('face', 'skin') && $isSeen('iris', 'lips');
    }
}
