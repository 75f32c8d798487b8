<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Answers only under its own names, and changes nothing for pages from elsewhere: a web site open in the same browser
 * must not be able to reach a program that listens on this machine.
 */
final class OwnPagesOnly
{
    /** @param Closure(Request): Response $next */
    public function handle(Request $request, Closure $next): Response
    {
        $hosts = config('cossel.hosts');
        $host = preg_replace('/:\d+\z/', '', (string) $request->headers->get('Host', ''));
        abort_unless(in_array($host, $hosts, true), 403, 'This address is not one Cossel answers under.');
        $origin = $request->headers->get('Origin');
        if ($origin !== null && $origin !== 'null') {
            abort_unless(parse_url($origin, PHP_URL_HOST) === trim((string) $host, '[]') || parse_url($origin, PHP_URL_HOST) === $host, 403, 'Requests from other sites are refused.');
        }
        abort_if($origin === 'null' && !$request->isMethodSafe(), 403, 'Requests from other sites are refused.');

        return $next($request);
    }
}
