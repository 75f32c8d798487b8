<?php

declare(strict_types=1);

namespace App\Deliveries;

use Illuminate\Support\Facades\File;

/** Folders as zip archives. */
final class Zip
{
    /** What is packed already. */
    private const PACKED = ['png', 'tif', 'exr', 'jpg', 'mkv', 'mov', 'mp4', 'webm', 'zip', 'pdf'];

    /** @throws \RuntimeException when it cannot be written */
    public static function folder(string $folder, string $file): void
    {
        $zip = new \ZipArchive();
        $opened = $zip->open($file, \ZipArchive::CREATE | \ZipArchive::OVERWRITE) === true;
        foreach ($opened ? File::allFiles($folder) : [] as $each) {
            $name = $each->getRelativePathname();
            $zip->addFile($each->getPathname(), $name);
            if (in_array($each->getExtension(), self::PACKED, true)) {
                $zip->setCompressionName($name, \ZipArchive::CM_STORE);
            }
        }
        if (!$opened || !$zip->close()) {
            throw new \RuntimeException("{$file} cannot be written.");
        }
    }
}
