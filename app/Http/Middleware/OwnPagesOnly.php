<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Answers only under its own names, and nothing to pages from elsewhere: a web site open in the same browser, or another program's on
 * this machine, must not be able to reach one that listens here.
 */
final class OwnPagesOnly
{
    /** @param Closure(Request): Response $next */
    public function handle(Request $request, Closure $next): Response
    {
        $host = preg_replace('/:\d+\z/', '', (string) $request->headers->get('Host', ''));
        abort_unless(in_array($host, config('cossel.hosts'), true), 403, 'This address is not one Cossel answers under.');
        // What a form can send must not pass for what only a script of our own sends.
        abort_if($request->getRealMethod() !== $request->getMethod(), 405, 'A request is what its method says, nothing else.');
        $origin = $request->headers->get('Origin');
        // Scheme, host and port: another port of the same machine is another program.
        abort_if($origin !== null && $origin !== $request->getSchemeAndHttpHost(), 403, 'Requests from other sites are refused.');
        // Nor may they look: at pictures, lists, whether something is there. Only a page itself may be come to by a link from elsewhere.
        $isLink = $request->isMethodSafe() && $request->headers->get('Sec-Fetch-Mode') === 'navigate' && $request->headers->get('Sec-Fetch-Dest') === 'document' && !$request->is('api/*');
        abort_if(!$isLink && in_array($request->headers->get('Sec-Fetch-Site'), ['cross-site', 'same-site'], true), 403, 'Requests from other sites are refused.');

        return $next($request);
    }
}
