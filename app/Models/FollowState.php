<?php

declare(strict_types=1);

namespace App\Models;

/** How far a follow is. */
enum FollowState: string
{
    case Waiting = 'waiting';
    case Following = 'following';
    case Done = 'done';
    case Stopped = 'stopped';
    case Failed = 'failed';

    /** @return list<self> those in which something is still done */
    public static function open(): array
    {
        return [self::Waiting, self::Following];
    }

    public function isOpen(): bool
    {
        return in_array($this, self::open(), true);
    }
}
