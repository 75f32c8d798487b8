<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Deliveries\Orders;
use App\Models\Carry;
use App\Models\CarryState;
use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use App\Models\Follow;
use App\Models\FollowState;
use App\Models\Look;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Work\FinishDelivery;
use App\Work\FollowArea;
use App\Work\LookOver;
use App\Work\MakeProposal;
use App\Work\ReadBundle;
use App\Work\ReadCut;
use App\Work\ReadFootage;
use App\Work\WorkerLock;
use App\Work\WorkQueue;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** Sees to it that no row waits for ever: what a dead worker held is let go, what waits without work is lined up again. */
final class Waiting
{
    public function __construct(private readonly WorkerLock $lock) {}

    public function letGo(): void
    {
        self::queue()->letGo();
        foreach ($this->lock->dead() as $name) {
            $this->lock->forget($name);
        }
    }

    /** Asks the workers whether they get anywhere; {@see \App\Health} tells of those that do not. */
    public function ask(): void
    {
        $this->lock->ask();
    }

    /** Rows and their work are written together, so this finds something only in a database that came from elsewhere or from an earlier release. */
    public function lineUp(): void
    {
        DB::transaction(static function (): void {
            self::without(Shot::where('state', ShotState::Reading)->pluck('id')->all(), 'shot', ReadFootage::dispatch(...));
            // What waits for another follow is begun by that one.
            $ready = Follow::whereIn('state', FollowState::open())->where(static fn($query) => $query->whereNull('after')->orWhereNotIn('after', Follow::whereIn('state', FollowState::open())->select('id')));
            self::without($ready->pluck('id')->all(), 'follow', FollowArea::dispatch(...));
            self::without(Carry::whereIn('state', CarryState::open())->pluck('id')->all(), 'carry', MakeProposal::dispatch(...));
            self::without(Delivery::where('state', DeliveryState::Finishing)->pluck('id')->all(), 'delivery', FinishDelivery::dispatch(...));
            self::without(Look::whereNull('looks')->whereRelation('judging', 'measures', null)->whereRelation('judging', 'message', null)->pluck('id')->all(), 'look', LookOver::dispatch(...));
            $taken = Upload::where('told->state', 'reading');
            self::without($taken->clone()->whereNull('job_id')->pluck('id')->all(), 'upload', ReadBundle::dispatch(...));
            self::without($taken->clone()->whereNotNull('job_id')->pluck('id')->all(), 'upload', ReadCut::dispatch(...));
            $parts = DeliveryPart::where('complete', false)->whereNull('error')->whereRelation('delivery', 'state', DeliveryState::Rendering)->orderBy('index')->get();
            Orders::line(new Collection($parts->filter(static fn(DeliveryPart $part): bool => !self::queue()->isAbout("part {$part->id}"))->all()));
        });
    }

    /**
     * @param list<int|string>           $ids
     * @param callable(int|string): mixed $dispatch
     */
    private static function without(array $ids, string $what, callable $dispatch): void
    {
        foreach ($ids as $id) {
            if (!self::queue()->isAbout("{$what} {$id}")) {
                $dispatch($id);
            }
        }
    }

    private static function queue(): WorkQueue
    {
        $queue = Queue::connection('work');
        \assert($queue instanceof WorkQueue);

        return $queue;
    }
}
