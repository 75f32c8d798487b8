<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Route;
use Symfony\Component\HttpFoundation\Response;

/**
 * Marks what is computed from pixels. The web server sends it to processes of its own, where it waits for its turn
 * ({@see \App\Server\Turns}), and it has only so much time there.
 */
final class InTurn
{
    /** @param Closure(Request): Response $next */
    public function handle(Request $request, Closure $next): Response
    {
        return $next($request);
    }

    /** A pattern for the addresses of all routes that are marked so. */
    public static function pattern(): string
    {
        $paths = [];
        foreach (Route::getRoutes()->getRoutes() as $route) {
            if (in_array(self::class, $route->gatherMiddleware(), true)) {
                $paths[] = preg_replace('#\\\\\{\w+\\\\\}#', '[^/]+', preg_quote('/' . $route->uri(), '#'));
            }
        }
        sort($paths);

        return '^(?:' . implode('|', $paths) . ')$';
    }
}
