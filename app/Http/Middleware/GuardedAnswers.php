<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Tells the browser what answers may do: load what comes from here, stand in no other page, be what they say they are; and how long they
 * are, so that one broken off by the end of PHP is not taken for a whole one.
 */
final class GuardedAnswers
{
    /** Styles are written into elements (rulers, swatches); pictures are made from what was fetched; the face finder runs in a worker. */
    private const POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    /** @param Closure(Request): Response $next */
    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        $response->headers->set('Content-Security-Policy', self::POLICY);
        $response->headers->set('X-Content-Type-Options', 'nosniff');
        $response->headers->set('X-Frame-Options', 'DENY');
        $response->headers->set('Cross-Origin-Resource-Policy', 'same-origin');
        $response->headers->set('Referrer-Policy', 'same-origin');
        $content = $response->getContent();
        if ($content !== false && $content !== '') {
            $response->headers->set('Content-Length', (string) strlen($content));
        }

        return $response;
    }
}
