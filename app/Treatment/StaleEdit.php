<?php

declare(strict_types=1);

namespace App\Treatment;

/** An edit was made on an older state of the recipe and cannot be put together with what was done since. */
final class StaleEdit extends \DomainException
{
    private function __construct(string $message, public readonly string $pointer)
    {
        parent::__construct($message);
    }

    public static function at(string $pointer): self
    {
        return new self('This was changed elsewhere in the meantime, in the same place. The newer state is shown; make your change again if you still want it.', $pointer);
    }

    /** @param string $label of the edit that whoever asks has not seen */
    public static function before(string $label): self
    {
        return new self("This shot was changed elsewhere in the meantime, last by “{$label}”. That is shown now; nothing else was done.", '');
    }

    public static function unknownBase(int $number): self
    {
        return new self("There is no revision {$number} of this recipe.", '');
    }
}
