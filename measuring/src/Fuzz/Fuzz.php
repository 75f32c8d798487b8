<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

/** One sort of hostile input: cases by their seed, each of which must end with a clear refusal or well. */
interface Fuzz
{
    public const MOST_SECONDS = 30.0;

    public function name(): string;

    /**
     * Tries one case.
     *
     * @return string|null what went wrong; null where nothing did
     */
    public function try(Dice $dice): ?string;

    /** What the last case was, in a few words, where that tells more than its seed. */
    public function about(): string;

    /** Seconds that the last case may take. */
    public function seconds(): float;
}
