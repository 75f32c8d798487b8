<?php

declare(strict_types=1);

namespace App\Work;

use App\Deliveries\FileName;
use App\Deliveries\Finisher;
use App\Deliveries\Orders;
use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;

/** Puts a delivery's parts together into its file. */
final class FinishDelivery implements Piece
{
    use Background;

    public function __construct(private readonly int $delivery)
    {
        $this->onQueue(Queues::DELIVERIES);
    }

    public function about(): string
    {
        return "delivery {$this->delivery}";
    }

    public function what(): string
    {
        return 'Putting a delivery together';
    }

    public function again(): void
    {
        $delivery = Delivery::find($this->delivery);
        $delivery === null || app(Orders::class)->retry($delivery);
    }

    public function handle(Finisher $finisher, Filesystem $files): void
    {
        $delivery = Delivery::find($this->delivery);
        if ($delivery === null || $delivery->state !== DeliveryState::Finishing) {
            return;
        }
        $shot = $delivery->shot;
        $name = sprintf('deliveries/%d/%s.%s', $delivery->id, $delivery->name ?? FileName::of(FileName::USUAL, $shot, $delivery->revision, $delivery->from, $delivery->to), $delivery->format->extension());
        $file = Storage::disk('data')->path($name);
        $files->makeDirectory(dirname($file), recursive: true, force: true);
        $parts = $delivery->parts->mapWithKeys(static fn(DeliveryPart $part): array => [RenderPart::file($part) => $part->to - $part->from + 1])->all();
        $finisher->finish($shot->readyFootage()->file(), $delivery->format, $parts, $delivery->from, $delivery->to, $file);
        Delivery::whereKey($delivery->id)->where('state', DeliveryState::Finishing)->update(['state' => DeliveryState::Done, 'file' => $name, 'bytes' => (int) filesize($file), 'sha256' => (string) hash_file('sha256', $file), 'error' => null]);
        $files->deleteDirectory($delivery->workFolder());
    }

    public function failed(?\Throwable $reason): void
    {
        Delivery::whereKey($this->delivery)->where('state', DeliveryState::Finishing)->update(['state' => DeliveryState::Failed, 'error' => 'Putting the file together: ' . Said::of($reason)]);
    }
}
