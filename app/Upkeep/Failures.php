<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\Failure;
use App\Models\Follow;
use App\Models\Look;
use App\Models\Shot;
use App\Work\Patience;
use App\Work\Piece;
use App\Work\Said;
use Illuminate\Queue\Events\JobFailed;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Support\Facades\Event;

/** Keeps what was given up where it is seen, and forgets it once it went well. */
final class Failures
{
    public static function watch(): void
    {
        Event::listen(static function (JobFailed $event): void {
            $work = self::piece($event->job->payload());
            if ($work !== null) {
                Patience::until(static fn() => Failure::updateOrCreate(['about' => $work->about()], ['what' => $work->what(), 'reason' => Said::of($event->exception), 'work' => serialize($work)]));
            }
        });
        Event::listen(static function (JobProcessed $event): void {
            $about = $event->job->payload()['about'] ?? null;
            if ($about !== null && !$event->job->hasFailed() && !$event->job->isReleased()) {
                Patience::until(static fn() => Failure::where('about', $about)->delete());
            }
        });
    }

    public static function retry(Failure $failure): void
    {
        $work = unserialize($failure->work);
        $failure->delete();
        if ($work instanceof Piece) {
            $work->again();
        }
    }

    /** The shot that it was for, if that is still there. */
    public static function shot(Failure $failure): ?Shot
    {
        [$what, $id] = [preg_replace('/ \d+\z/', '', $failure->about), (int) preg_replace('/\D/', '', $failure->about)];

        return match ($what) {
            'shot', 'frames of shot' => Shot::find($id),
            'follow' => Follow::find($id)?->shot,
            'delivery' => Delivery::find($id)?->shot,
            'part' => DeliveryPart::find($id)?->delivery->shot,
            'look' => Look::find($id)?->judging->shot,
            default => null,
        };
    }

    /** @param array<string, mixed> $payload */
    private static function piece(array $payload): ?Piece
    {
        $work = unserialize((string) ($payload['data']['command'] ?? ''));

        return $work instanceof Piece ? $work : null;
    }
}
