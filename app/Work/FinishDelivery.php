<?php

declare(strict_types=1);

namespace App\Work;

use App\Deliveries\Beside;
use App\Deliveries\FileName;
use App\Deliveries\Finisher;
use App\Deliveries\Orders;
use App\Deliveries\Zip;
use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use Cossel\Core\Recipe\RecipeReader;
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

    public function handle(Finisher $finisher, Beside $beside, RecipeReader $reader, Filesystem $files): void
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
        $wishes = $delivery->wishes();
        $footage = $shot->readyFootage()->file();
        $finisher->finish($footage, $delivery->format, $parts, $delivery->from, $delivery->to, $file, $wishes, $shot->cut['reel'] ?? null);
        $done = ['state' => DeliveryState::Done, 'file' => $name, 'bytes' => (int) filesize($file), 'sha256' => (string) hash_file('sha256', $file), 'error' => null];
        if ($wishes->asksBeside()) {
            $stem = pathinfo($name, PATHINFO_FILENAME);
            $beside->write($wishes, $reader->read(json_decode($delivery->recipe, true, flags: JSON_THROW_ON_ERROR)), $shot, $delivery->from, $delivery->to, "{$file}.beside", $stem);
            $zip = sprintf('deliveries/%d/%s_beside.zip', $delivery->id, $stem);
            Zip::folder("{$file}.beside", Storage::disk('data')->path($zip));
            $files->deleteDirectory("{$file}.beside");
            $done += ['beside' => $zip, 'beside_sha256' => (string) hash_file('sha256', Storage::disk('data')->path($zip))];
        }
        Delivery::whereKey($delivery->id)->where('state', DeliveryState::Finishing)->update($done);
        $files->deleteDirectory($delivery->workFolder());
    }

    public function failed(?\Throwable $reason): void
    {
        Delivery::whereKey($this->delivery)->where('state', DeliveryState::Finishing)->update(['state' => DeliveryState::Failed, 'error' => 'Putting the file together: ' . Said::of($reason)]);
    }
}
