<?php

declare(strict_types=1);

namespace App\Models;

/** How far a delivery is. */
enum DeliveryState: string
{
    case Rendering = 'rendering';
    case Paused = 'paused';
    case Finishing = 'finishing';
    case Done = 'done';
    case Cancelled = 'cancelled';
    case Failed = 'failed';

    /** @return list<self> those in which something is still done */
    public static function open(): array
    {
        return [self::Rendering, self::Finishing];
    }

    public function isOpen(): bool
    {
        return in_array($this, self::open(), true);
    }
}
