<?php

declare(strict_types=1);

namespace App\Footage;

/** A probed file of footage on this machine's disk, with the name people know it by. */
final readonly class FootageFile
{
    public function __construct(public string $path, public string $sha256, public FootageInfo $info, public string $name) {}
}
