<?php

declare(strict_types=1);

namespace App\Upkeep;

/** A file of a backup as it was when last looked at. */
final readonly class BackupFile
{
    /**
     * @param int $source  when the file in the data folder was changed, as Unix time; 0 where that was not noted
     * @param int $copy    when the file in the backup was changed
     * @param int $checked when the copy was last read whole
     */
    public function __construct(public int $bytes, public string $sha256, public int $source = 0, public int $copy = 0, public int $checked = 0) {}
}
