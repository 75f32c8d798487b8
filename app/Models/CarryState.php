<?php

declare(strict_types=1);

namespace App\Models;

/** How far a carry is. */
enum CarryState: string
{
    case Waiting = 'waiting';
    case Working = 'working';
    /** It can be looked at, taken or left. */
    case Proposed = 'proposed';
    case Taken = 'taken';
    case Left = 'left';
    case Failed = 'failed';

    /** @return list<self> those in which something is still done */
    public static function open(): array
    {
        return [self::Waiting, self::Working];
    }

    public function isOpen(): bool
    {
        return in_array($this, self::open(), true);
    }
}
