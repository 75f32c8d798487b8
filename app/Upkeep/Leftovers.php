<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Footage\FootageStore;
use App\Footage\FrameCache;
use App\Models\Carry;
use App\Models\CarryState;
use App\Models\Delivery;
use App\Models\DeliveryState;
use App\Models\Revision;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Treatment;
use App\Models\Upload;
use App\Pictures\PictureCache;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;

/** Clears away what nothing needs any more: files without a row, what was left half made, and what is beyond its time. */
final class Leftovers
{
    /** A file younger than this may belong to a row that is just being written. */
    private const YOUNG = 20;

    public function __construct(private readonly Filesystem $files, private readonly FootageStore $footage, private readonly FrameCache $frames, private readonly PictureCache $pictures) {}

    /** @return int bytes freed */
    public function clear(): int
    {
        return $this->uploads() + $this->bundles() + $this->footage->clearUp() + $this->deliveries() + $this->named('tracks/*/*.json*', self::sha256(...)) + $this->named('assets/*', self::sha256(...)) + $this->frames->clearUp();
    }

    /** Brings the caches back within their bounds. */
    public function keepBounds(): void
    {
        $this->frames->keepBound();
        $this->pictures->keepBound();
    }

    /** Files without a row; uploads that nobody went on with; rows of those that became a shot long ago. */
    private function uploads(): int
    {
        $days = (int) config('limits.kept.uploads_days');
        foreach (Upload::where('updated_at', '<', now()->subDays($days))->whereNull('shot_id')->get() as $upload) {
            if ($this->age($upload->path()) > $days * 86400) {
                $upload->delete();
            }
        }
        $settled = Shot::whereIn('state', [ShotState::Reading, ShotState::Doubtful, ShotState::Failed])->select('id');
        Upload::where('updated_at', '<', now()->subDay())->whereNotNull('shot_id')->whereNotIn('shot_id', $settled)->delete();
        $known = Upload::pluck('id')->flip();
        $freed = 0;
        foreach ($this->inData('uploads/*') as $file) {
            if (!isset($known[basename($file)]) && $this->age($file) > self::YOUNG) {
                $freed += $this->remove($file);
            }
        }

        return $freed;
    }

    /** Bundles that were made or unpacked and never fetched or taken in. */
    private function bundles(): int
    {
        $old = array_filter($this->inData('bundles/*'), fn(string $file): bool => $this->age($file) > 86400);

        return array_sum(array_map($this->remove(...), $old));
    }

    /** Folders of deliveries that are no more, and parts of those that nobody takes up again. */
    private function deliveries(): int
    {
        $freed = 0;
        $states = Delivery::pluck('state', 'id');
        foreach ($this->inData('deliveries/*') as $folder) {
            $id = (int) basename($folder);
            $isWork = str_ends_with($folder, '.work');
            $state = $states[$id] ?? null;
            $needed = match (true) {
                $state === null => false,
                !$isWork => true,
                $state === DeliveryState::Done => false,
                $state->isOpen() => true,
                default => $this->age($folder) < 86400 * (int) config('limits.kept.parts_days'),
            };
            if (!$needed && $this->age($folder) > self::YOUNG) {
                $freed += $this->remove($folder);
            }
        }

        return $freed;
    }

    /**
     * Files by their content's name that no recipe names, nor one that is proposed. They are kept a while: what was followed may be on its way into one.
     *
     * @param callable(string): string $sha256 of a file's name
     */
    private function named(string $pattern, callable $sha256): int
    {
        $freed = 0;
        foreach ($this->inData($pattern) as $file) {
            if ($this->age($file) > 86400 * (int) config('limits.kept.unnamed_days')) {
                $name = $sha256(basename($file));
                $isNamed = Revision::where('recipe', 'like', "%{$name}%")->exists() || Delivery::where('recipe', 'like', "%{$name}%")->exists() || Treatment::where('recipe', 'like', "%{$name}%")->exists() || Carry::where('state', CarryState::Proposed)->where('recipe', 'like', "%{$name}%")->exists();
                $isNamed ? touch($file) : $freed += $this->remove($file);
            }
        }

        return $freed;
    }

    private static function sha256(string $name): string
    {
        return substr($name, 0, 64);
    }

    /** @return list<string> */
    private function inData(string $pattern): array
    {
        return glob(Storage::disk('data')->path($pattern)) ?: [];
    }

    private function age(string $path): int
    {
        clearstatcache(true, $path);
        $changed = @filemtime($path);

        // A clock that was set back makes nothing old.
        return $changed === false ? PHP_INT_MAX : max(0, time() - $changed);
    }

    private function remove(string $path): int
    {
        $bytes = 0;
        foreach (is_dir($path) ? $this->files->allFiles($path, true) : [new \SplFileInfo($path)] as $file) {
            $bytes += (int) @$file->getSize();
        }
        is_dir($path) ? $this->files->deleteDirectory($path) : $this->files->delete($path);

        return $bytes;
    }
}
