<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** One setting of a kind of touch. */
abstract readonly class Parameter
{
    /** @param mixed $neutral what it is when nobody set it; a touch whose settings are all at that changes nothing */
    public function __construct(public string $name, public mixed $neutral) {}
}
