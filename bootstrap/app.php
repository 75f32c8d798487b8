<?php

declare(strict_types=1);

use App\Http\ErrorAnswers;
use App\Http\Middleware\GuardedAnswers;
use App\Http\Middleware\OwnPagesOnly;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\Middleware\HandleCors;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__ . '/../routes/web.php', api: __DIR__ . '/../routes/api.php')
    ->withCommands([__DIR__ . '/../app/Console'])
    ->withMiddleware(static function (Middleware $middleware): void {
        $middleware->remove(HandleCors::class);
        $middleware->prepend(GuardedAnswers::class);
        $middleware->append(OwnPagesOnly::class);
        $middleware->group('web', []);
    })
    ->withExceptions(static function (Exceptions $exceptions): void {
        ErrorAnswers::register($exceptions);
    })
    ->create();
