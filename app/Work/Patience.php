<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Database\QueryException;

/** A database that another program holds is waited for: it is nothing that went wrong with the work. */
final class Patience
{
    private const SECONDS = 2;

    public static function isLocked(\Throwable $reason): bool
    {
        return $reason instanceof QueryException && str_contains($reason->getMessage(), 'database is locked');
    }

    /** Writes down how far work has come; where that has to wait, it is left out. @param callable(): mixed $write */
    public static function note(callable $write): void
    {
        try {
            $write();
        } catch (QueryException $reason) {
            if (!self::isLocked($reason)) {
                throw $reason;
            }
        }
    }

    /** @param \Closure(object): mixed $next */
    public function handle(object $work, \Closure $next): void
    {
        try {
            $next($work);
        } catch (QueryException $reason) {
            if (!self::isLocked($reason) || !method_exists($work, 'release')) {
                throw $reason;
            }
            $work->release(self::SECONDS);
        }
    }
}
