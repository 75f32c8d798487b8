<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Carrying\KeptTreatments;
use App\Http\Requests\KeepTreatmentRequest;
use App\Http\Requests\LayTreatmentRequest;
use App\Http\Requests\TakeTreatmentRequest;
use App\Http\Resources\CarryResource;
use App\Models\Job;
use App\Models\Shot;
use App\Models\Treatment;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** Treatments that a job keeps under names. */
final class TreatmentController
{
    public function __construct(private readonly KeptTreatments $kept) {}

    public function index(Job $job): JsonResponse
    {
        return new JsonResponse($job->treatments->map(self::told(...)));
    }

    /** What is done in a shot. */
    public function keep(KeepTreatmentRequest $request, Shot $shot): JsonResponse
    {
        return new JsonResponse(self::told($this->kept->keep($shot, $request->title(), $request->areas(), $request->boolean('base'), $request->boolean('finish'), $request->touches())));
    }

    /** What a file holds. */
    public function store(TakeTreatmentRequest $request, Job $job): JsonResponse
    {
        return new JsonResponse(self::told($this->kept->take($job, $request->title(), $request->document())));
    }

    public function show(Job $job, Treatment $treatment): Response
    {
        $name = Str::slug($treatment->name, '_') ?: 'treatment';

        return new Response($treatment->recipe, 200, ['Content-Type' => 'application/json', 'Content-Disposition' => "attachment; filename=\"{$name}.recipe.json\""]);
    }

    public function destroy(Job $job, Treatment $treatment): Response
    {
        $treatment->delete();

        return response()->noContent();
    }

    /** Proposes it for shots of the job. */
    public function lay(LayTreatmentRequest $request, Job $job, Treatment $treatment): AnonymousResourceCollection
    {
        return CarryResource::collection($this->kept->lay($job, $treatment, $request->shots(), $request->person(), $request->boolean('replace')));
    }

    /** @return array<string, mixed> */
    private static function told(Treatment $treatment): array
    {
        $document = json_decode($treatment->recipe, true, flags: JSON_THROW_ON_ERROR);
        $areas = array_column(array_filter($document['areas'], static fn(array $area): bool => in_array($area['id'], $document['carry']['areas'], true)), 'name');

        return ['id' => $treatment->id, 'title' => $treatment->name, 'areas' => $areas, 'base' => $document['carry']['base'], 'finish' => $document['carry']['finish']];
    }
}
