<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\DB;

/** Many writes in a row without keeping others from the database: in transactions of a blink, with a pause as long after each. */
final class ShortTransactions
{
    private const SECONDS = 0.04;

    /**
     * @template T
     *
     * @param iterable<T>       $things
     * @param callable(T): mixed $act   for each, within a transaction
     * @param callable(): mixed $end    at the end of each transaction
     */
    public static function each(iterable $things, callable $act, callable $end): void
    {
        $things = (static fn(): \Generator => yield from $things)();
        while ($things->valid()) {
            $took = DB::transaction(static function () use ($things, $act, $end): float {
                $began = microtime(true);
                do {
                    $act($things->current());
                    $things->next();
                } while ($things->valid() && microtime(true) - $began < self::SECONDS);
                $end();

                return microtime(true) - $began;
            });
            // Whoever waits for the lock looks for it now and then only.
            usleep((int) (1e6 * min($took, 0.2)));
        }
    }
}
