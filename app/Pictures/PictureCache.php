<?php

declare(strict_types=1);

namespace App\Pictures;

use Illuminate\Filesystem\Filesystem;

/** Finished pictures on disk, by what they were made from. May be emptied at any time. */
final class PictureCache
{
    public function __construct(private readonly Filesystem $files, private readonly string $path, private readonly int $mostBytes, private readonly string $engine) {}

    /**
     * @param array<mixed>       $from everything the picture depends on besides the engine
     * @param callable(): string $make
     */
    public function get(array $from, callable $make): string
    {
        $known = $this->known($from);
        if ($known !== null) {
            return $known;
        }
        $made = $make();
        $file = $this->file($from);
        $this->files->makeDirectory(dirname($file), recursive: true, force: true);
        $this->files->replace($file, $made);

        return $made;
    }

    /** @param array<mixed> $from everything the picture depends on besides the engine */
    public function known(array $from): ?string
    {
        $known = @file_get_contents($this->file($from));

        return $known === false ? null : $known;
    }

    /** @param array<mixed> $from */
    private function file(array $from): string
    {
        $key = hash('xxh128', json_encode([$this->engine, $from], JSON_THROW_ON_ERROR));

        return "{$this->path}/" . substr($key, 0, 2) . "/{$key}.jpg";
    }

    public function empty(): void
    {
        $this->files->cleanDirectory($this->path);
    }

    /** Lets the pictures go that were made longest ago, as far as there are too many. */
    public function keepBound(): void
    {
        $files = [];
        $bytes = 0;
        foreach (glob("{$this->path}/*/*") ?: [] as $file) {
            $files[$file] = (int) @filemtime($file);
            $bytes += (int) @filesize($file);
        }
        asort($files);
        foreach (array_keys($files) as $file) {
            if ($bytes <= $this->mostBytes) {
                break;
            }
            $bytes -= (int) @filesize($file);
            @unlink($file);
        }
    }
}
