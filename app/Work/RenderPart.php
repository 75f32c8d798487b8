<?php

declare(strict_types=1);

namespace App\Work;

use App\Deliveries\Cancelled;
use App\Deliveries\Orders;
use App\Deliveries\PartRenderer;
use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use App\Treatment\Renderers;
use Cossel\Core\Recipe\RecipeReader;
use Illuminate\Support\Facades\DB;

/** Renders one part of a delivery; the last one to be complete sends the finishing. A part that fails does not keep the others from being rendered. */
final class RenderPart implements Piece
{
    use Background;

    public function __construct(private readonly int $part, private readonly int $turn = 0)
    {
        $this->onQueue(Queues::DELIVERIES);
    }

    public function about(): string
    {
        return "part {$this->part}";
    }

    public function turn(): int
    {
        return $this->turn;
    }

    public function what(): string
    {
        return 'Rendering a part of a delivery';
    }

    public function again(): void
    {
        $delivery = DeliveryPart::find($this->part)?->delivery;
        $delivery === null || app(Orders::class)->retry($delivery);
    }

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
                $renderer->render($delivery->shot->readyFootage()->file(), $renderers->of($recipe), $delivery->format, $part->from, $part->to, self::file($part), static function (int $number) use ($part, $delivery): bool {
                    Patience::note(static fn(): bool => $part->update(['done' => $number - $part->from + 1]));

                    return Delivery::whereKey($delivery->id)->where('state', DeliveryState::Rendering)->exists();
                });
            } catch (Cancelled) {
                return;
            }
        }
        self::over($part, ['complete' => true, 'done' => $part->to - $part->from + 1, 'error' => null]);
    }

    public function failed(?\Throwable $reason): void
    {
        $part = DeliveryPart::find($this->part);
        if ($part !== null && !$part->complete) {
            self::over($part, ['error' => sprintf('Frames %d to %d: %s', $part->from, $part->to, Said::of($reason))]);
        }
    }

    public static function file(DeliveryPart $part): string
    {
        return sprintf('%s/%05d.mkv', $part->delivery->workFolder(), $part->index);
    }

    /**
     * Marks the part and, if none is left, hands the delivery on: both or neither, whenever the worker may die.
     *
     * @param array<string, mixed> $outcome
     */
    private static function over(DeliveryPart $part, array $outcome): void
    {
        DB::transaction(static function () use ($part, $outcome): void {
            $part->update($outcome);
            $parts = $part->delivery->parts();
            if ($parts->clone()->where('complete', false)->whereNull('error')->exists()) {
                return;
            }
            $errors = $parts->clone()->whereNotNull('error')->pluck('error')->all();
            $state = $errors === [] ? DeliveryState::Finishing : DeliveryState::Failed;
            if (Delivery::whereKey($part->delivery_id)->where('state', DeliveryState::Rendering)->update(['state' => $state, 'error' => $errors === [] ? null : implode("\n", $errors)]) === 1 && $errors === []) {
                FinishDelivery::dispatch($part->delivery_id);
            }
        });
    }
}
