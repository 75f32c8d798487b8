<?php

declare(strict_types=1);

namespace App\Footage;

use App\Cuts\Cuts;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Work\PrepareFrames;
use App\Work\ReadFootage;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;

/** Files on their way in, and what becomes of them. */
final class Uploads
{
    /**
     * Adds a piece where it belongs; one that is there already, or that leaves a gap, changes nothing.
     *
     * @param resource $piece
     */
    public function add(Upload $upload, int $offset, mixed $piece): void
    {
        $file = @fopen($upload->path(), 'ce');
        if ($file === false || !flock($file, LOCK_EX)) {
            throw StorageFull::or('The data folder cannot be written to.');
        }
        try {
            if ($offset === $upload->received()) {
                fseek($file, $offset);
                while (!feof($piece) && $offset < $upload->size) {
                    $bytes = (string) fread($piece, min(1 << 20, $upload->size - $offset));
                    $written = @fwrite($file, $bytes);
                    if ($written !== strlen($bytes)) {
                        throw StorageFull::or('The data folder cannot be written to.');
                    }
                    $offset += $written;
                }
            }
        } finally {
            fclose($file);
        }
    }

    /**
     * Makes a shot of a whole upload, at the end of its job. Asked for again, as when the answer was lost, it is the same shot.
     *
     * @param array{int, int|null}|null $span
     */
    public function finish(Upload $upload, ?array $span): Shot
    {
        return DB::transaction(static function () use ($upload, $span): Shot {
            $upload->refresh();
            if ($upload->shot_id !== null) {
                return Shot::findOrFail($upload->shot_id);
            }
            // A file that the cut asks for is the footage of those shots.
            $asking = Cuts::asking($upload->job_id, $upload->name);
            if ($asking !== null) {
                $asking->update(['state' => ShotState::Reading, 'error' => null]);
                $upload->update(['shot_id' => $asking->id, 'span' => null]);
                ReadFootage::dispatch($asking->id);

                return $asking;
            }
            $position = 1 + (int) Shot::where('job_id', $upload->job_id)->max('position');
            $shot = Shot::create(['job_id' => $upload->job_id, 'name' => pathinfo($upload->name, PATHINFO_FILENAME), 'state' => ShotState::Reading, 'position' => $position]);
            $upload->update(['shot_id' => $shot->id, 'span' => $span]);
            ReadFootage::dispatch($shot->id);

            return $shot;
        });
    }

    /**
     * Has a whole upload that becomes no shot taken in; how far it is stands in its row. Asked for again, nothing is done twice.
     *
     * @param array<string, mixed>    $how  kept for whoever takes it in
     * @param callable(string): mixed $work begins it
     */
    public function takeIn(Upload $upload, array $how, callable $work): Upload
    {
        return DB::transaction(static function () use ($upload, $how, $work): Upload {
            $upload->refresh();
            if ($upload->told === null) {
                abort_unless($upload->received() === $upload->size, 409, 'The upload is not whole yet.');
                $upload->update(['told' => ['state' => 'reading', ...$how]]);
                $work($upload->id);
            }

            return $upload->refresh();
        });
    }

    /** Gives back the room of the file that a shot was made of. Its row is kept a while: whoever has not heard that it became a shot may ask again. */
    public function spend(Shot $shot): void
    {
        $upload = Upload::where('shot_id', $shot->id)->first();
        if ($upload === null || $shot->state === ShotState::Reading) {
            return;
        }
        self::drop($upload);
    }

    /** Has what lies in a folder of the server where a file that was sent would be; as it is there by now. */
    public function fetch(Upload $upload): void
    {
        if ($upload->source !== null) {
            self::drop($upload);
            ServerFolders::fetch($upload->source, $upload->path());
        }
    }

    /** Reads the file of a shot once more, where reading it broke off. */
    public function again(Shot $shot): void
    {
        DB::transaction(static function () use ($shot): void {
            if ($shot->refresh()->state === ShotState::Failed && self::canBeReadAgain($shot)) {
                $shot->update(['state' => ShotState::Reading, 'error' => null]);
                ReadFootage::dispatch($shot->id);
            }
        });
    }

    public static function canBeReadAgain(Shot $shot): bool
    {
        $upload = $shot->state === ShotState::Failed ? Upload::where('shot_id', $shot->id)->first() : null;

        return $upload !== null && (file_exists($upload->path()) || ($upload->source !== null && file_exists($upload->source)));
    }

    private static function drop(Upload $upload): void
    {
        $files = new Filesystem();
        is_dir($upload->path()) ? $files->deleteDirectory($upload->path()) : $files->delete($upload->path());
    }

    /** Takes footage that is not whole as it is: its user has decided so. */
    public function accept(Shot $shot, Intake $intake): void
    {
        DB::transaction(static function () use ($shot, $intake): void {
            if ($shot->refresh()->state === ShotState::Doubtful && $shot->footage !== null && $shot->cut !== null) {
                $shot->update(['state' => ShotState::Missing]);
                app(Cuts::class)->supply($shot->job, $shot->footage);
            } elseif ($shot->state === ShotState::Doubtful && $shot->footage !== null) {
                $intake->fill($shot, $shot->footage, Upload::where('shot_id', $shot->id)->first()?->span);
                PrepareFrames::dispatch($shot->id);
            }
        });
    }
}
