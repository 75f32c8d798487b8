<?php

declare(strict_types=1);

namespace App\Footage;

/** A lock on something on the disk, by a file beside it; whoever dies lets go of it. */
final class FileLock
{
    /**
     * @template T
     *
     * @param callable(): T $act  what is done while the lock is held
     * @param bool          $wait for another to let go of it
     *
     * @return T|null null where another holds it and it is not waited for
     */
    public static function hold(string $file, callable $act, bool $wait = true): mixed
    {
        do {
            // Not handed on to programs that are started meanwhile.
            $lock = @fopen($file, 'ce');
            if ($lock === false) {
                throw StorageFull::or(basename(dirname($file)) . ' cannot be written to.');
            }
            if (!flock($lock, $wait ? LOCK_EX : LOCK_EX | LOCK_NB)) {
                return null;
            }
            // Whoever held it before may have taken its file away: then it is not the lock any more.
            clearstatcache(true, $file);
        } while (@fileinode($file) !== (fstat($lock)['ino'] ?? null));
        try {
            return $act();
        } finally {
            @unlink($file);
            fclose($lock);
        }
    }
}
