<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Models\Carry;
use App\Models\Delivery;
use App\Models\Failure;
use App\Models\Follow;
use App\Models\FrameNote;
use App\Models\Job;
use App\Models\Preset;
use App\Models\Shot;
use App\Models\Treatment;
use App\Models\Upload;

/** What the parts of an address stand for: rows that are there, as the last request left them. */
final class Rows
{
    public function __construct(private readonly Texts $texts) {}

    public static function shot(): ?Shot
    {
        return Shot::where('state', 'ready')->where('revision', '>', 0)->orderByDesc('id')->first();
    }

    /** @param string $uri of the route */
    public function id(string $what, string $uri, Dice $dice): string
    {
        if ($dice->happens(0.06)) {
            $odd = $dice->odd();

            return is_scalar($odd) && (string) $odd !== '' ? mb_strimwidth((string) $odd, 0, 100) : '0';
        }
        $shot = self::shot();

        return (string) match ($what) {
            'shot' => $shot->id ?? 1,
            'job' => $shot->job_id ?? Job::max('id') ?? 1,
            'upload' => $this->upload($uri, $dice),
            'delivery' => Delivery::max('id') ?? 1,
            'follow' => Follow::max('id') ?? 1,
            'carry' => Carry::max('id') ?? 1,
            'batch' => Carry::orderByDesc('id')->value('batch') ?? '00000000-0000-4000-8000-000000000000',
            'treatment' => Treatment::where('job_id', $shot?->job_id)->max('id') ?? 1,
            'preset' => Preset::where('job_id', $shot?->job_id)->max('id') ?? 1,
            'frameNote' => FrameNote::where('shot_id', $shot?->id)->max('id') ?? 1,
            'failure' => Failure::max('id') ?? 1,
            'area' => $dice->one(['face', 'lips', 'none']),
            'touch' => $dice->one(['t1', 'cdl', 'none']),
            'version' => $shot?->versions()->value('id') ?? 1,
            'revision' => $dice->whole(0, 4),
            'form' => $dice->one(['cc', 'ccc', 'cdl', 'otio', 'edl', 'html', 'pdf']),
            'side' => $dice->one(['before', 'after']),
            'person' => 'wren',
            default => 'x',
        };
    }

    /** One that fits the route: a whole file that came in, and as a rule is what it should be. */
    private function upload(string $uri, Dice $dice): string
    {
        if ($dice->happens(0.2)) {
            return (string) (Upload::query()->latest()->value('id') ?? 'none');
        }
        [$name, $bytes] = match (substr($uri, strrpos($uri, '/') + 1)) {
            'cut' => $this->texts->cut($dice),
            'bundle' => ['a.bundle.zip', $this->texts->bundle($dice)],
            default => ['clip.mkv', $this->texts->film($dice)],
        };
        $job = str_ends_with($uri, '/bundle') !== $dice->happens(0.1) ? null : (self::shot()->job_id ?? null);
        $upload = Upload::create(['job_id' => $job, 'name' => $name, 'size' => strlen($bytes) + (int) $dice->happens(0.1)]);
        file_put_contents($upload->path(), str_ends_with($uri, '{upload}') ? '' : $bytes);

        return $upload->id;
    }
}
