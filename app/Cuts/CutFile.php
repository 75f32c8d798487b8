<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Json;
use App\Models\DeliveryState;
use App\Models\Job;
use App\Models\Shot;
use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\EdlReader;
use Cossel\Core\Cut\EdlWriter;
use Cossel\Core\Cut\Event;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\OtioReader;
use Cossel\Core\Cut\OtioWriter;
use Cossel\Core\Cut\Rate;

/** Cuts as files. */
final class CutFile
{
    /** @throws InvalidCut */
    public static function read(string $name, string $text, Rate $rate): Cut
    {
        if (strtolower(pathinfo($name, PATHINFO_EXTENSION)) !== 'otio') {
            return EdlReader::read($text, $rate);
        }
        try {
            return OtioReader::read(Json::read($text));
        } catch (\JsonException $reason) {
            throw InvalidCut::at('', $reason->getMessage());
        }
    }

    public static function is(string $name): bool
    {
        return in_array(strtolower(pathinfo($name, PATHINFO_EXTENSION)), ['otio', 'edl'], true);
    }

    /**
     * The cut of a job as it is: each event from the newest delivery of its shot, where there is one, else from its footage.
     *
     * @throws InvalidCut where the job has none
     */
    public static function written(Job $job, string $form): string
    {
        $shots = $job->shots()->whereNotNull('cut')->with(['footage', 'deliveries'])->get()->filter(static fn(Shot $shot): bool => !CutPlace::of($shot->cut)->isRetired);
        $first = $shots->first();
        if ($first === null) {
            throw InvalidCut::at('', 'no cut was brought into this job');
        }
        $events = $shots->values()->map(static fn(Shot $shot, int $i): Event => self::event($shot, $i + 1))->all();
        $cut = new Cut($job->name, CutPlace::of($first->cut)->rate, array_values($events));

        return $form === 'otio' ? OtioWriter::json($cut) : EdlWriter::write($cut);
    }

    private static function event(Shot $shot, int $number): Event
    {
        $place = CutPlace::of($shot->cut);
        $event = $place->event;
        $delivery = $shot->deliveries->first(static fn($delivery): bool => $delivery->state === DeliveryState::Done && $delivery->file !== null);
        if ($delivery === null || $shot->footage === null) {
            return new Event($number, $shot->name, $event->file ?? $shot->footage?->name, $event->reel, $event->in, $event->out, $event->at, $event->start);
        }
        // A delivery begins with its own first frame.
        $in = $place->frames($shot->footage->info())[0] - $delivery->from;

        return new Event($number, $shot->name, basename((string) $delivery->file), null, $in, $in + $event->length(), $event->at, 0);
    }
}
