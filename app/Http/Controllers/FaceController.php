<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Carrying\SkinThroughCut;
use App\Models\Shot;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** The face of a person in a shot, for looking at one person through the cut. */
final class FaceController
{
    public function __construct(private readonly SkinThroughCut $faces) {}

    /** Its skin as it is treated, and how far that is from the same person's in another shot, CIEDE2000. */
    public function show(Request $request, Shot $shot, string $person): JsonResponse
    {
        $face = $this->faces->of($shot, $person);
        $other = $request->query('beside') === null ? null : $this->faces->of(Shot::where('job_id', $shot->job_id)->findOrFail((int) $request->query('beside')), $person);
        $apart = $face === null || $face['tones'] === null || $other === null || $other['tones'] === null ? null : round($face['tones']->apart($other['tones']), 2);

        return new JsonResponse(['area' => $face['area'] ?? null, 'frame' => $face['frame'] ?? null, 'apart' => $apart]);
    }

    public function picture(Shot $shot, string $person): Response
    {
        $jpeg = $this->faces->witness($shot, $person);
        abort_if($jpeg === null, 404, 'No face of theirs is outlined in this shot.');

        return new Response($jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-store']);
    }
}
