<?php

declare(strict_types=1);

namespace App\Footage;

use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Work\ReadFootage;
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
        $file = fopen($upload->path(), 'c');
        if ($file === false || !flock($file, LOCK_EX)) {
            throw new \RuntimeException("The upload {$upload->id} cannot be written.");
        }
        if ($offset === $upload->received()) {
            fseek($file, $offset);
            stream_copy_to_stream($piece, $file, $upload->size - $offset);
        }
        fclose($file);
    }

    /**
     * Makes a shot of a whole upload, at the end of its job.
     *
     * @param array{int, int|null}|null $span
     */
    public function finish(Upload $upload, ?array $span): Shot
    {
        return DB::transaction(static function () use ($upload, $span): Shot {
            $position = 1 + (int) Shot::where('job_id', $upload->job_id)->max('position');
            $shot = Shot::create(['job_id' => $upload->job_id, 'name' => pathinfo($upload->name, PATHINFO_FILENAME), 'state' => ShotState::Reading, 'position' => $position]);
            ReadFootage::dispatch($shot->id, $upload->path(), $upload->name, $span);
            $upload->delete();

            return $shot;
        });
    }
}
