<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Deliveries\DeliveryNotReady;
use App\Deliveries\Encoding;
use App\Deliveries\Format;
use App\Deliveries\Orders;
use App\Http\Requests\DeliverManyRequest;
use App\Http\Requests\DeliverRequest;
use App\Http\Requests\DeliveryOrderRequest;
use App\Http\Resources\DeliveryResource;
use App\Models\Delivery;
use App\Models\DeliveryState;
use App\Models\Job;
use App\Models\Shot;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class DeliveryController
{
    public function __construct(private readonly Orders $orders) {}

    public function index(): AnonymousResourceCollection
    {
        $turns = Orders::turns();
        $all = Delivery::with(['parts', 'shot.job'])->orderByDesc('id')->limit(200)->get();
        // What is still to be rendered comes first, as it is lined up.
        $rank = static fn(Delivery $d): array => $d->state->isOpen() ? [0, $turns[$d->id] ?? PHP_INT_MIN, $d->id] : [1, 0, -$d->id];

        return DeliveryResource::collection($all->sortBy($rank)->values());
    }

    public function formats(): JsonResponse
    {
        return new JsonResponse(array_map(static fn(Format $format): array => ['name' => $format->value, 'label' => $format->label(), 'purpose' => $format->purpose(), 'there' => Encoding::isThere($format)], Format::cases()));
    }

    public function store(DeliverRequest $request, Shot $shot): DeliveryResource
    {
        return new DeliveryResource($this->orders->place($shot, $request->wantedFormat(), (int) $request->validated('from'), (int) $request->validated('to'), $request->validated('slip'), wishes: $request->wishes()));
    }

    /** Several shots of a job at once. */
    public function many(DeliverManyRequest $request, Job $job): AnonymousResourceCollection
    {
        return DeliveryResource::collection($this->orders->placeAll($job, $request->shots(), $request->wantedFormat(), $request->boolean('handles'), $request->validated('name'), $request->validated('slip'), $request->wishes()));
    }

    /** SHA-256 sums of all that was delivered of a job, as sha256sum checks them. */
    public function sums(Job $job): Response
    {
        $done = Delivery::whereIn('shot_id', $job->shots()->select('id'))->where('state', DeliveryState::Done)->whereNotNull('sha256')->orderBy('id')->get();
        $line = static fn(?string $sum, ?string $file): string => $sum === null ? '' : "{$sum}  " . basename((string) $file) . "\n";
        $lines = $done->map(static fn(Delivery $d): string => $line($d->sha256, $d->file) . $line($d->beside_sha256, $d->beside))->implode('');

        return new Response($lines, 200, ['Content-Type' => 'text/plain; charset=utf-8', 'Content-Disposition' => 'attachment; filename="deliveries.sha256"']);
    }

    public function pause(Delivery $delivery): DeliveryResource
    {
        $this->orders->pause($delivery);

        return new DeliveryResource($delivery->refresh());
    }

    /** Which of those that wait is rendered first. */
    public function arrange(DeliveryOrderRequest $request): Response
    {
        $this->orders->arrange($request->deliveries());

        return response()->noContent();
    }

    public function cancel(Delivery $delivery): DeliveryResource
    {
        $this->orders->cancel($delivery);

        return new DeliveryResource($delivery->refresh());
    }

    public function retry(Delivery $delivery): DeliveryResource
    {
        $this->orders->retry($delivery);

        return new DeliveryResource($delivery->refresh());
    }

    public function destroy(Delivery $delivery): Response
    {
        $this->orders->remove($delivery);

        return response()->noContent();
    }

    public function file(Delivery $delivery): BinaryFileResponse
    {
        return self::handed($delivery->file);
    }

    public function beside(Delivery $delivery): BinaryFileResponse
    {
        return self::handed($delivery->beside);
    }

    private static function handed(?string $file): BinaryFileResponse
    {
        if ($file === null) {
            throw DeliveryNotReady::file();
        }
        if (!Storage::disk('data')->exists($file)) {
            throw DeliveryNotReady::fileGone();
        }

        // The web server hands it out itself where it says that it can.
        BinaryFileResponse::trustXSendfileTypeHeader();

        return response()->download(Storage::disk('data')->path($file));
    }
}
