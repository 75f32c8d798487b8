<?php

declare(strict_types=1);

namespace App\Work;

use App\Deliveries\Cancelled;
use App\Deliveries\PartRenderer;
use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use App\Treatment\Renderers;
use Cossel\Core\Recipe\RecipeReader;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Support\Facades\DB;

/** Renders one part of a delivery; the last one to be complete sends the finishing. */
final class RenderPart implements ShouldQueue
{
    use Background;

    public function __construct(private readonly int $part) {}

    public function handle(PartRenderer $renderer, RecipeReader $reader, Renderers $renderers): void
    {
        $part = DeliveryPart::find($this->part);
        if ($part === null || $part->delivery->state !== DeliveryState::Rendering) {
            return;
        }
        if (!$part->complete) {
            $delivery = $part->delivery;
            $recipe = $reader->read(json_decode($delivery->recipe, true, flags: JSON_THROW_ON_ERROR));
            try {
                $renderer->render($delivery->shot->readyFootage()->file(), $renderers->of($recipe), $part->from, $part->to, self::file($part), static function (int $number) use ($part, $delivery): bool {
                    $part->update(['done' => $number - $part->from + 1]);

                    return Delivery::whereKey($delivery->id)->where('state', DeliveryState::Rendering)->exists();
                });
            } catch (Cancelled) {
                return;
            }
        }
        self::complete($part);
    }

    public function failed(?\Throwable $reason): void
    {
        $part = DeliveryPart::find($this->part);
        $part?->delivery->update(['state' => DeliveryState::Failed, 'error' => sprintf('Frames %d to %d: %s', $part->from, $part->to, Said::of($reason))]);
    }

    public static function file(DeliveryPart $part): string
    {
        return sprintf('%s/%05d.mkv', $part->delivery->workFolder(), $part->index);
    }

    /** Marks the part and, if none is left, hands the delivery on: both or neither, whenever the worker may die. */
    private static function complete(DeliveryPart $part): void
    {
        DB::transaction(static function () use ($part): void {
            $part->update(['complete' => true, 'done' => $part->to - $part->from + 1]);
            if (!$part->delivery->parts()->where('complete', false)->exists()
                && Delivery::whereKey($part->delivery_id)->where('state', DeliveryState::Rendering)->update(['state' => DeliveryState::Finishing]) === 1) {
                FinishDelivery::dispatch($part->delivery_id);
            }
        });
    }
}
