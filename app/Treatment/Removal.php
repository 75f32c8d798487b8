<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Deliveries\Orders;
use App\Footage\FootageStore;
use App\Models\Delivery;
use App\Models\Job;
use App\Models\Revision;
use App\Models\Shot;
use App\Models\Upload;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Filesystem\Filesystem as Files;

/** Takes jobs and shots away, with all on the disk that nothing else needs. */
final class Removal
{
    public function __construct(private readonly Orders $orders, private readonly FootageStore $store, private readonly Filesystem $disk, private readonly Files $files) {}

    public function job(Job $job): void
    {
        foreach ($job->shots as $shot) {
            $this->shot($shot);
        }
        foreach (Upload::where('job_id', $job->id)->get() as $upload) {
            $this->files->delete($upload->path());
        }
        $job->delete();
    }

    public function shot(Shot $shot): void
    {
        foreach ($shot->deliveries as $delivery) {
            $this->orders->remove($delivery);
        }
        $tracks = $this->tracks($shot);
        $footage = $shot->footage;
        $upload = Upload::where('shot_id', $shot->id)->first();
        $shot->delete();
        if ($upload !== null) {
            $this->files->delete($upload->path());
        }
        foreach ($tracks as $sha256) {
            if (!self::isNamed($sha256)) {
                $this->disk->delete(Tracks::path($sha256));
            }
        }
        if ($footage !== null) {
            $this->store->drop($footage);
        }
    }

    /** @return list<string> sha256 of the tracks that any of its revisions names */
    private function tracks(Shot $shot): array
    {
        $tracks = [];
        foreach ($shot->revisions()->lazyById() as $revision) {
            preg_match_all('/"track":\{"sha256":"([0-9a-f]{64})"/', $revision->recipe, $found);
            $tracks += array_flip($found[1]);
        }

        return array_keys($tracks);
    }

    private static function isNamed(string $sha256): bool
    {
        return Revision::where('recipe', 'like', "%{$sha256}%")->exists() || Delivery::where('recipe', 'like', "%{$sha256}%")->exists();
    }
}
