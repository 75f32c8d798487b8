<?php

declare(strict_types=1);

namespace App\Footage;

use App\Faces\Faces;
use App\Models\Delivery;
use App\Models\Footage;
use App\Models\Revision;
use App\Models\Shot;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * The files of footage on the data disk, each once by the SHA-256 of its content. Who puts one there, takes one away or
 * clears up holds its lock, so that none is cleared away while it is on its way in.
 */
final class FootageStore
{
    private const FOLDER = 'footage';

    public function __construct(private readonly Filesystem $files, private readonly FrameCache $frames, private readonly Faces $faces) {}

    /**
     * Keeps a file under its content's name and its row with it. Nothing is there under that name until it is whole;
     * whatever was left half made by another is made anew.
     *
     * @param callable(string): string      $make writes the file and tells the SHA-256 of what it wrote
     * @param callable(string): FootageInfo $look probes it before it is kept
     */
    public function keep(string $sha256, string $name, callable $make, callable $look): Footage
    {
        return $this->locked($sha256, function () use ($sha256, $name, $make, $look): Footage {
            $known = Footage::where('sha256', $sha256)->first();
            $target = $this->path($sha256);
            if ($known !== null && is_file($target)) {
                return $known;
            }
            $work = "{$target}.part";
            $this->clear($work);
            try {
                $content = is_file($target) ? null : $make($work);
                $info = $look(is_file($target) ? $target : $work);
                is_file($target) || rename($work, $target);
            } finally {
                $this->clear($work);
            }

            return Footage::updateOrCreate(['sha256' => $sha256], ['path' => self::FOLDER . "/{$sha256}", 'name' => $name, 'info' => $info->toArray(), ...($content === null ? [] : ['content_sha256' => $content])]);
        }) ?? throw new \LogicException('Whoever keeps a file waits for its lock.');
    }

    /** Takes footage away that nothing needs any more. */
    public function drop(Footage $footage): void
    {
        $this->locked($footage->sha256, function () use ($footage): void {
            $gone = DB::transaction(static fn(): bool => !self::isUsed($footage) && Footage::whereKey($footage->id)->delete() === 1);
            if ($gone) {
                $this->files->delete($this->path($footage->sha256));
                $this->frames->forget($footage->sha256);
                $this->faces->forget($footage->sha256);
            }
        });
    }

    /** Clears away files without a row and what was left half made. @return int bytes */
    public function clearUp(): int
    {
        $freed = 0;
        $names = array_unique(array_map(static fn(string $file): string => substr(basename($file), 0, 64), glob($this->path('*')) ?: []));
        $known = Footage::pluck('sha256')->flip();
        foreach ($names as $sha256) {
            $freed += $this->locked($sha256, function () use ($sha256, $known): int {
                $freed = 0;
                foreach (glob($this->path("{$sha256}*")) ?: [] as $file) {
                    if (!str_ends_with($file, '.lock') && ($file !== $this->path($sha256) || (!isset($known[$sha256]) && !Footage::where('sha256', $sha256)->exists()))) {
                        $freed += is_file($file) ? (int) filesize($file) : 0;
                        $this->clear($file);
                    }
                }

                return $freed;
            }, false) ?? 0;
        }

        return $freed;
    }

    public static function isUsed(Footage $footage): bool
    {
        return Shot::where('footage_id', $footage->id)->exists()
            || Revision::where('recipe', 'like', "%{$footage->sha256}%")->exists()
            || Delivery::where('recipe', 'like', "%{$footage->sha256}%")->exists();
    }

    private function path(string $sha256): string
    {
        return Storage::disk('data')->path(self::FOLDER . "/{$sha256}");
    }

    private function clear(string $path): void
    {
        is_dir($path) ? $this->files->deleteDirectory($path) : $this->files->delete($path);
    }

    /**
     * @template T
     *
     * @param callable(): T $act
     *
     * @return T|null null where another holds the lock and nobody waits for it
     */
    private function locked(string $sha256, callable $act, bool $wait = true): mixed
    {
        $file = $this->path($sha256) . '.lock';
        $this->files->ensureDirectoryExists(dirname($file));

        return FileLock::hold($file, $act, $wait);
    }
}
