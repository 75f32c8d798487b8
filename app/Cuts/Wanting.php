<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Models\Footage;

/** Why a shot of a cut cannot be made yet: its footage is not here, or too short. */
final readonly class Wanting
{
    /** @param string|null $asks the media it asks for; null where that is here */
    private function __construct(public string $error, private ?string $asks) {}

    /**
     * @phpstan-assert-if-true !null $footage
     *
     * @return self|null null where nothing is wanting
     */
    public static function of(CutPlace $place, ?Footage $footage): ?self
    {
        $media = $place->event->media();
        if ($footage === null) {
            return new self("Its footage is not here: bring in {$media}.", $media);
        }
        if ($place->span($footage->info()) !== null) {
            return null;
        }
        [$first, $last] = $place->frames($footage->info());

        return new self(sprintf('The cut asks for frames %d to %d of %s, which has 0 to %d.', $first, $last, $media, $footage->info()->frames() - 1), null);
    }

    public function tell(string $shot, Brought $brought): void
    {
        $this->asks === null ? $brought->tell("{$shot}: " . lcfirst($this->error)) : $brought->ask($shot, $this->asks);
    }
}
