<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** A cut that cannot be brought in: what is wrong, and where. */
final class InvalidCut extends \DomainException
{
    /** @param int $line from 1 */
    public static function onLine(int $line, string $reason): self
    {
        return new self("Line {$line}: {$reason}.");
    }

    public static function at(string $pointer, string $reason): self
    {
        return new self(($pointer === '' ? 'The file' : $pointer) . ": {$reason}.");
    }

    public static function of(Event $event, string $reason): self
    {
        return new self("Event {$event->number} ({$event->name}): {$reason}.");
    }
}
