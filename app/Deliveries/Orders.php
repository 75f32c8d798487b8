<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Cuts\CutPlace;
use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use App\Work\FinishDelivery;
use App\Work\Queues;
use App\Work\RenderPart;
use App\Work\WorkQueue;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Storage;

/** Asks for deliveries, cancels them, takes them up again. */
final class Orders
{
    public function __construct(private readonly Recipes $recipes, private readonly Filesystem $files) {}

    /**
     * Several shots at once: all of them or, where there is no room for that, none. One after the other, in the order of the job.
     *
     * @param list<int> $ids     of shots
     * @param bool      $handles whether all frames of a shot are delivered, or those alone that the cut shows
     * @param string    $name    pattern of the files' names
     * @param string    $slip    sent again with the same one, nothing is placed twice
     *
     * @return list<Delivery>
     */
    public function placeAll(Job $job, array $ids, Format $format, bool $handles, string $name, string $slip, Wishes $wishes = new Wishes()): array
    {
        self::check($format, $wishes);
        $shots = $job->shots()->whereKey($ids)->where('state', ShotState::Ready)->with('footage')->get();
        $needed = 0;
        $spans = [];
        foreach ($shots as $shot) {
            $spans[$shot->id] = $handles || $shot->cut === null ? [$shot->from, $shot->to] : self::shown($shot);
            $needed += DiskSpace::needed($shot->readyFootage()->info(), $format, $spans[$shot->id][1] - $spans[$shot->id][0] + 1);
        }
        DiskSpace::check($needed, 'deliver fewer shots at once');

        return DB::transaction(function () use ($shots, $format, $spans, $slip, $name, $wishes): array {
            $all = $shots->map(fn(Shot $shot): Delivery => $this->take($shot, $format, ...$spans[$shot->id], slip: "{$slip} {$shot->id}", name: $name, wishes: $wishes));
            $new = $all->where('wasRecentlyCreated', true)->pluck('id');
            self::line(DeliveryPart::whereIn('delivery_id', $new)->orderBy('delivery_id')->orderBy('index')->get());

            return $all->values()->all();
        });
    }

    /** @throws DeliveryNotReady saying what cannot be written */
    private static function check(Format $format, Wishes $wishes): void
    {
        Encoding::check($format);
        if ($format->isLinear() && $wishes->changesPictures()) {
            throw DeliveryNotReady::asRendered($format->label());
        }
    }

    /** @return array{int, int} the frames that the cut shows, as far as the shot has them */
    private static function shown(Shot $shot): array
    {
        [$first, $last] = CutPlace::of($shot->cut ?? [])->frames($shot->readyFootage()->info());

        return [max($shot->from, min($shot->to, $first)), max($shot->from, min($shot->to, $last))];
    }

    /**
     * @param string|null $slip made up by who orders: sent again with the same one, an order is not placed twice
     * @param string      $name pattern of the file's name
     */
    public function place(Shot $shot, Format $format, int $from, int $to, ?string $slip = null, string $name = FileName::USUAL, Wishes $wishes = new Wishes()): Delivery
    {
        self::check($format, $wishes);

        return DB::transaction(function () use ($shot, $format, $from, $to, $slip, $name, $wishes): Delivery {
            $delivery = $this->take($shot, $format, $from, $to, $slip, $name, $wishes);
            if ($delivery->wasRecentlyCreated) {
                self::line($delivery->parts()->get());
            }

            return $delivery;
        });
    }

    /** Keeps an order with its parts; they are lined up when all are there: one that is done at once must know of the others. */
    private function take(Shot $shot, Format $format, int $from, int $to, ?string $slip, string $name, Wishes $wishes): Delivery
    {
        $placed = $slip === null ? null : $shot->deliveries()->where('slip', $slip)->first();
        if ($placed !== null) {
            return $placed;
        }
        $revision = $this->recipes->present($shot);
        $delivery = $shot->deliveries()->create(['slip' => $slip, 'format' => $format, 'state' => DeliveryState::Rendering, 'from' => $from, 'to' => $to, 'revision' => $revision->number, 'recipe' => $revision->recipe, 'name' => FileName::of($name, $shot, $revision->number, $from, $to), 'wishes' => $wishes->document()]);
        $size = (int) config('cossel.frames_a_part');
        for ($first = $from, $index = 0; $first <= $to; $first += $size, ++$index) {
            $delivery->parts()->create(['index' => $index, 'from' => $first, 'to' => min($to, $first + $size - 1)]);
        }

        return $delivery;
    }

    /**
     * Lines parts up behind the first ones of other deliveries, so that several are rendered in turns.
     *
     * @param Collection<int, DeliveryPart> $parts
     */
    public static function line(Collection $parts): void
    {
        $queue = Queue::connection();
        $turn = $queue instanceof WorkQueue ? $queue->turn(Queues::DELIVERIES) : 0;
        foreach ($parts->values() as $k => $part) {
            RenderPart::dispatch($part->id, $turn + $k);
        }
    }

    public function cancel(Delivery $delivery): void
    {
        Delivery::whereKey($delivery->id)->whereIn('state', [DeliveryState::Paused, ...DeliveryState::open()])->update(['state' => DeliveryState::Cancelled]);
    }

    /** Its workers stop at the frame they are at; {@see retry} goes on. */
    public function pause(Delivery $delivery): void
    {
        Delivery::whereKey($delivery->id)->where('state', DeliveryState::Rendering)->update(['state' => DeliveryState::Paused]);
    }

    /** @return array<int, int> by delivery: when the first of its parts that nobody has begun is due */
    public static function turns(): array
    {
        $queue = Queue::connection();
        $turns = [];
        foreach ($queue instanceof WorkQueue ? $queue->turns(Queues::DELIVERIES) : [] as $about => $turn) {
            $part = sscanf($about, 'part %d')[0] ?? null;
            $delivery = $part === null ? null : DeliveryPart::whereKey($part)->value('delivery_id');
            if ($delivery !== null) {
                $turns[$delivery] = min($turns[$delivery] ?? $turn, $turn);
            }
        }

        return $turns;
    }

    /**
     * Lines the parts that nobody has begun up anew: all of the first delivery, then all of the next.
     *
     * @param list<int> $ids of deliveries, the first to be rendered first
     */
    public function arrange(array $ids): void
    {
        $queue = Queue::connection();
        if (!$queue instanceof WorkQueue) {
            return;
        }
        DB::transaction(static function () use ($queue, $ids): void {
            $turn = $queue->turn(Queues::DELIVERIES);
            foreach ($ids as $id) {
                foreach (DeliveryPart::where('delivery_id', $id)->where('complete', false)->orderBy('index')->pluck('id') as $part) {
                    $queue->moveTo(Queues::DELIVERIES, "part {$part}", $turn++);
                }
            }
        });
    }

    /** Goes on where a paused, cancelled or failed delivery stood; complete parts are not rendered again. */
    public function retry(Delivery $delivery): void
    {
        DB::transaction(static function () use ($delivery): void {
            if ($delivery->state->isOpen() || $delivery->state === DeliveryState::Done) {
                return;
            }
            $delivery->parts()->each(static function (DeliveryPart $part): void {
                $complete = $part->complete && is_file(RenderPart::file($part));
                $part->update(['complete' => $complete, 'done' => $complete ? $part->done : 0, 'error' => null]);
            });
            $open = $delivery->parts()->where('complete', false)->get();
            $delivery->update(['state' => $open->isEmpty() ? DeliveryState::Finishing : DeliveryState::Rendering, 'error' => null]);
            self::line($open);
            if ($open->isEmpty()) {
                FinishDelivery::dispatch($delivery->id);
            }
        });
    }

    public function remove(Delivery $delivery): void
    {
        $this->cancel($delivery);
        $this->files->deleteDirectory($delivery->workFolder());
        Storage::disk('data')->deleteDirectory("deliveries/{$delivery->id}");
        $delivery->delete();
    }
}
