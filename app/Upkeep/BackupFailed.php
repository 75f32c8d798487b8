<?php

declare(strict_types=1);

namespace App\Upkeep;

final class BackupFailed extends \RuntimeException
{
    public static function inside(): self
    {
        return new self('A backup inside the data folder would not outlive it. Choose another place, best on another disk.');
    }

    public static function none(string $folder): self
    {
        return new self("There is no whole backup in {$folder}. Nothing was changed.");
    }

    public static function damaged(string $name): self
    {
        return new self("{$name} of this backup is damaged or missing. Nothing was changed.");
    }

    public static function notWritten(string $name): self
    {
        return new self("{$name} could not be written; is the disk full? The database was not changed.");
    }

    public static function busy(): self
    {
        return new self('The database is busy with something else. Nothing was changed; try it again.');
    }
}
