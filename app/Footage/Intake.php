<?php

declare(strict_types=1);

namespace App\Footage;

use App\Models\Footage;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/** Takes a file in as footage: probes it, keeps it by its content, and gives it to a shot. */
final class Intake
{
    public function __construct(private readonly Probe $probe, private readonly ImageSequence $sequence, private readonly Filesystem $files, private readonly Recipes $recipes) {}

    /**
     * Moves the file into the store and probes it there; a file known already is not kept twice.
     *
     * @throws UnreadableFootage|RefusedFootage when it is not taken; the file is deleted then
     */
    public function take(string $path, string $name): Footage
    {
        $sha256 = is_file($path) ? hash_file('sha256', $path) : false;
        if ($sha256 === false) {
            throw UnreadableFootage::gone($name);
        }
        $known = Footage::where('sha256', $sha256)->first();
        if ($known !== null && is_file($known->file()->path)) {
            $this->files->delete($path);

            return $known;
        }
        $kept = "footage/{$sha256}";
        $target = Storage::disk('data')->path($kept);
        $this->files->makeDirectory(dirname($target), recursive: true, force: true);
        if (ImageSequence::isArchive($path)) {
            try {
                $this->sequence->toFootage($path, $target);
            } finally {
                $this->files->delete($path);
            }
        } else {
            $this->files->move($path, $target);
        }
        try {
            $info = $this->probe->read($target);
        } catch (UnreadableFootage|RefusedFootage $refusal) {
            $this->files->delete($target);
            throw $refusal;
        }

        return Footage::updateOrCreate(['sha256' => $sha256], ['path' => $kept, 'name' => $name, 'info' => $info->toArray()]);
    }

    /**
     * Gives footage to a shot and begins its recipe.
     *
     * @param array{int, int|null}|null $span
     */
    public function fill(Shot $shot, Footage $footage, ?array $span): void
    {
        $last = $footage->info()->frames() - 1;
        $from = $span[0] ?? 0;
        $to = $span[1] ?? $last;
        if ($from < 0 || $to > $last || $from > $to) {
            throw RefusedFootage::span($from, $to, $last);
        }
        DB::transaction(function () use ($shot, $footage, $from, $to): void {
            $shot->update(['footage_id' => $footage->id, 'from' => $from, 'to' => $to, 'state' => ShotState::Ready, 'error' => null]);
            if ($shot->revision === 0) {
                $this->recipes->begin($shot, $footage);
            }
        });
    }
}
