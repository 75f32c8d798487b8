<?php

declare(strict_types=1);

namespace App\Work;

/** A database that another program holds is waited for: it is nothing that went wrong with the work. */
final class Patience
{
    private const SECONDS = 2;
    /** So often a step of the queue's own is tried, each after the ten seconds that the database itself waits. */
    private const TRIES = 60;

    /** Whether something failed because another holds the database: a query, or the beginning of a transaction. */
    public static function isLocked(\Throwable $reason): bool
    {
        return $reason instanceof \PDOException && preg_match('/database (?:table )?is locked/', $reason->getMessage()) === 1;
    }

    /** Writes down how far work has come; where that has to wait, it is left out. @param callable(): mixed $write */
    public static function note(callable $write): void
    {
        try {
            $write();
        } catch (\PDOException $reason) {
            if (!self::isLocked($reason)) {
                throw $reason;
            }
        }
    }

    /**
     * Does what must not be left out, as soon as the database is free.
     *
     * @template T
     *
     * @param callable(): T $act
     *
     * @return T
     */
    public static function until(callable $act): mixed
    {
        for ($try = 1; ; ++$try) {
            try {
                return $act();
            } catch (\PDOException $reason) {
                if (!self::isLocked($reason) || $try === self::TRIES) {
                    throw $reason;
                }
                usleep(100_000);
            }
        }
    }

    /** @param \Closure(object): mixed $next */
    public function handle(object $work, \Closure $next): void
    {
        try {
            $next($work);
        } catch (\PDOException $reason) {
            if (!self::isLocked($reason) || !method_exists($work, 'release')) {
                throw $reason;
            }
            $work->release(self::SECONDS);
        }
    }
}
