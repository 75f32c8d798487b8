<?php

declare(strict_types=1);

namespace App\Upkeep;

final class BackupFailed extends \RuntimeException
{
    /** Whether the same may go well a little later. */
    public bool $isBusy = false;

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

    public static function link(string $name): self
    {
        return new self("{$name} of this backup is a link. A backup holds files only. Nothing was changed.");
    }

    /** @param string $trouble a sentence */
    public static function unfit(string $trouble): self
    {
        return new self("This backup cannot be used. {$trouble} Nothing was changed.");
    }

    public static function unreadable(string $name, string $reason): self
    {
        return new self("{$name} cannot be read: {$reason}. Nothing was changed.");
    }

    public static function database(): self
    {
        return new self('The database is damaged. What was backed up before stands; ./cossel restore puts it back. Nothing was changed.');
    }

    public static function busy(): self
    {
        $failed = new self('The database is busy with something else. Nothing was changed; try it again.');
        $failed->isBusy = true;

        return $failed;
    }
}
