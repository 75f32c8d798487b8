<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Health;
use Illuminate\Http\JsonResponse;

/** Tells a supervisor whether all is well: 200, or 503 with what is not. */
final class HealthController
{
    public function __invoke(): JsonResponse
    {
        $report = Health::report();
        $well = array_filter($report) === [];

        return new JsonResponse(['well' => $well, 'checks' => array_map(static fn(?string $trouble): string => $trouble ?? 'well', $report), 'jail' => Health::jail()], $well ? 200 : 503, ['Cache-Control' => 'no-store']);
    }
}
