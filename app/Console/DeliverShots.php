<?php

declare(strict_types=1);

namespace App\Console;

use App\Deliveries\FileName;
use App\Deliveries\Format;
use App\Deliveries\Orders;
use App\Deliveries\Wishes;
use App\Http\Requests\PresetRequest;
use App\Models\Delivery;
use App\Models\DeliveryState;
use App\Work\Queues;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Facades\Validator;
use Illuminate\Support\Str;

final class DeliverShots extends JobCommand
{
    protected $signature = 'cossel:deliver
        {shots?* : names of shots; all when left out}
        {--job= : name of the job}
        {--preset= : a kept way of delivering}
        {--as=ffv1 : format}
        {--without-handles : as the cut shows them}
        {--name= : pattern of the files\' names}
        {--height= : rows of the pictures}
        {--burn : name, frame and timecode in the picture}
        {--mattes= : png, tiff or exr}
        {--beside=* : recipe, tracks, outlines, cdl, cube33, cube65, report}
        {--into= : folder that the files are copied to, with their sums}
        {--json : tell it as JSON}';

    protected $description = 'Delivers shots of a job';

    public function handle(Orders $orders): int
    {
        return $this->guarded(function () use ($orders): int {
            $job = $this->job();
            $shots = $this->shots($job, $this->argument('shots'));
            $order = $this->order($job->presets()->where('name', (string) $this->option('preset'))->value('order'));
            $into = $this->option('into');
            if ($into !== null && (!(is_dir($into) || @mkdir($into)) || !is_writable($into))) {
                throw WrongUse::because("The folder {$into} cannot be written to.");
            }
            $placed = $orders->placeAll($job, $shots->pluck('id')->all(), Format::from($order['format']), (bool) $order['handles'], $order['name'], 'cli ' . Str::random(12), Wishes::of($order));
            $ids = array_column($placed, 'id');
            $this->work(Queues::DELIVERIES, static fn(): bool => Delivery::whereKey($ids)->whereIn('state', DeliveryState::open())->exists());
            $done = Delivery::whereKey($ids)->with('shot')->orderBy('id')->get();
            $into === null || $this->copy($done->all(), rtrim($into, '/'));
            $this->tell(
                $done->map(static fn(Delivery $d): array => ['shot' => $d->shot->name, 'state' => $d->state->value, 'file' => $d->file === null ? null : basename($d->file), 'sha256' => $d->sha256, 'bytes' => $d->bytes, 'beside' => $d->beside === null ? null : basename($d->beside), 'frames' => [$d->from, $d->to], 'error' => $d->error])->all(),
                $done->map(static fn(Delivery $d): string => "{$d->shot->name}: " . ($d->state === DeliveryState::Done ? basename((string) $d->file) : "{$d->state->value}. {$d->error}"))->all(),
            );

            return $done->isNotEmpty() && $done->every(static fn(Delivery $d): bool => $d->state === DeliveryState::Done) ? self::DONE : self::PARTLY;
        });
    }

    /**
     * @param array<string, mixed>|null $preset
     *
     * @return array<string, mixed>
     *
     * @throws WrongUse
     */
    private function order(?array $preset): array
    {
        $height = $this->option('height');
        $order = $this->option('preset') !== null ? $preset ?? throw WrongUse::because("The job keeps no way of delivering “{$this->option('preset')}”.") : [
            'format' => $this->option('as'),
            'handles' => !$this->option('without-handles'),
            'name' => $this->option('name') ?? FileName::USUAL,
            'height' => $height === null ? null : (int) $height,
            'mattes' => $this->option('mattes'),
            'beside' => $this->option('beside'),
            'burn' => $this->option('burn'),
        ];
        Format::tryFrom((string) ($order['format'] ?? '')) ?? throw WrongUse::because("There is no format {$order['format']}; there are " . implode(', ', array_column(Format::cases(), 'value')) . '.');
        // A kept one may be of an earlier release, which asked less of it.
        $problem = Validator::make($order, PresetRequest::ofOrder())->errors()->first();

        return $problem === '' ? $order : throw WrongUse::because($problem);
    }

    /** @param list<Delivery> $deliveries */
    private function copy(array $deliveries, string $into): void
    {
        $sums = '';
        foreach ($deliveries as $delivery) {
            foreach ([[$delivery->file, $delivery->sha256], [$delivery->beside, $delivery->beside_sha256]] as [$file, $sha256]) {
                if ($file !== null) {
                    copy(Storage::disk('data')->path($file), "{$into}/" . basename($file)) || throw new \RuntimeException("{$into} cannot be written to.");
                    $sums .= "{$sha256}  " . basename($file) . "\n";
                }
            }
        }
        file_put_contents("{$into}/deliveries.sha256", $sums);
    }
}
