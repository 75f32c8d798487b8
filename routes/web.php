<?php

declare(strict_types=1);

use App\Http\Controllers\HealthController;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Route;

Route::get('up', HealthController::class);

// Every screen is the one page of the front end; it finds its way by the address.
Route::fallback(static function (): Response {
    abort_if(request()->is('api/*'), 404);
    $page = public_path('app/index.html');
    abort_unless(is_file($page), 503, 'The front end is not built yet. Run ./cossel demo or npm run build.');

    return new Response((string) file_get_contents($page), 200, ['Content-Type' => 'text/html; charset=utf-8', 'Cache-Control' => 'no-cache']);
});
