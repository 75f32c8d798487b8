<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** For kinds that change nothing exactly when each of their settings is at its neutral value. */
trait Neutral
{
    public function isNeutral(array $values): bool
    {
        foreach ($this->parameters() as $parameter) {
            if ($values[$parameter->name] !== $parameter->neutral) {
                return false;
            }
        }

        return true;
    }
}
