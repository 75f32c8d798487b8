<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Models\Delivery;
use App\Models\Follow;
use App\Models\Job;
use App\Models\Shot;
use App\Models\Upload;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;

/** Requests to every route: with what belongs there, changed here and there, and with what nobody expects. */
final class RequestFuzz implements Fuzz
{
    private const CDL = '<ColorCorrection id="a"><SOPNode><Slope>1 1 1</Slope></SOPNode></ColorCorrection>';

    /** @param \Closure(): void $restore brings a job with a treated shot back where a request has taken it away */
    public function __construct(private readonly Kernel $kernel, private readonly \Closure $restore) {}

    public function name(): string
    {
        return 'requests';
    }

    public function try(Dice $dice): ?string
    {
        if (!Shot::where('state', 'ready')->exists()) {
            ($this->restore)();
        }
        $routes = array_values(array_filter(Route::getRoutes()->getRoutes(), static fn($route): bool => !$route->isFallback));
        $route = $dice->one($routes);
        $method = $dice->one(array_diff($route->methods(), ['HEAD']));
        if ($method === 'DELETE' && $dice->happens(0.7)) {
            $method = 'GET';
        }
        $uri = '/' . preg_replace_callback('/\{(\w+)\}/', fn(array $m): string => rawurlencode($this->id($m[1], $dice)), $route->uri());
        $asked = $this->body($route->uri(), $dice);
        $body = $dice->happens(0.1) ? $asked : Mutation::ofDocument($asked, $dice);
        $request = $method === 'GET'
            ? Request::create($uri, 'GET', is_array($body) ? $body : [])
            : Request::create($uri . ($dice->happens(0.5) ? '?offset=' . $dice->one(['0', '-1', '9e9', 'x', '4']) : ''), $method, server: ['CONTENT_TYPE' => $dice->happens(0.97) ? 'application/json' : 'text/plain'], content: $dice->happens(0.97) ? (string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR) : Mutation::ofText((string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR), $dice));
        $request->headers->set('Host', '127.0.0.1');
        $request->headers->set('Accept', 'application/json');
        try {
            $response = $this->kernel->handle($request);
        } finally {
            while (DB::transactionLevel() > 0) {
                DB::rollBack();
            }
        }

        return $response->getStatusCode() < 500 ? null : sprintf('%s %s: %d %s for %s', $method, $uri, $response->getStatusCode(), mb_strimwidth((string) $response->getContent(), 0, 300, '…'), mb_strimwidth((string) $request->getContent(), 0, 600, '…'));
    }

    private function id(string $what, Dice $dice): string
    {
        if ($dice->happens(0.06)) {
            $odd = $dice->odd();

            return is_scalar($odd) && (string) $odd !== '' ? mb_strimwidth((string) $odd, 0, 100) : '0';
        }
        $shot = Shot::where('state', 'ready')->orderByDesc('id')->first();

        return (string) match ($what) {
            'shot' => $shot->id ?? 1,
            'job' => Job::max('id') ?? 1,
            'upload' => Upload::query()->value('id') ?? 'none',
            'delivery' => Delivery::max('id') ?? 1,
            'follow' => Follow::max('id') ?? 1,
            'area' => $dice->one(['face', 'lips', 'none']),
            'touch' => $dice->one(['t1', 'cdl', 'none']),
            'version' => $shot?->versions()->value('id') ?? 1,
            'revision' => $dice->whole(0, 4),
            'form' => $dice->one(['cc', 'ccc', 'cdl']),
            'person' => 'wren',
            default => 'x',
        };
    }

    /** What belongs to a route, with nothing wrong in it. */
    private function body(string $uri, Dice $dice): mixed
    {
        $shot = Shot::where('state', 'ready')->orderByDesc('id')->first();
        $recipe = $shot?->presentRevision()->first()?->document();
        $frame = ['frame' => $dice->whole(0, 11), ...($dice->happens(0.5) ? ['recipe' => $recipe] : [])];
        $picture = [...$frame, 'view' => $dice->one(['result', 'original', 'base', 'matte', 'tint', 'picked', 'difference', 'without']), 'area' => 'face', 'height' => $dice->one([16, 32, 64]), 'gain' => 4, 'standing' => 1, 'full' => 64, 'window' => [0.1, 0.1, 0.5, 0.6], 'revision' => 1];
        $name = substr($uri, strrpos($uri, '/') + 1);

        return match (true) {
            $name === 'picture', $name === 'poster' => $picture,
            $name === 'pictures' => [...$picture, 'frames' => [$dice->whole(0, 11), $dice->whole(0, 11)]],
            $name === 'witnesses' => [...$picture, 'frames' => [$dice->whole(0, 11)], 'width' => 32],
            $name === 'scope' => [...$picture, 'scope' => $dice->one(['waveform', 'parade', 'vectorscope', 'histogram']), 'limited' => true, 'zoom' => 2],
            $name === 'recipe' => ['base' => $shot->revision ?? 1, 'label' => 'Face, exposure', 'recipe' => $recipe],
            in_array($name, ['undo', 'redo'], true) => ['base' => $shot->revision ?? 1],
            in_array($name, ['pick', 'sample', 'cover', 'other', 'colours'], true) => [...$frame, 'at' => [0.7, 0.5], 'sign' => '+', 'from' => [0.6, 0.4], 'to' => [0.8, 0.6], 'follow' => true],
            $name === 'edge' => [...$frame, 'from' => [0.5, 0.5], 'to' => [0.6, 0.6]],
            $name === 'person' => [...$frame, 'person' => 'wren', 'landmarks' => array_map(static fn(int $i): array => [0.7 + 0.2 * cos($i), 0.5 + 0.3 * sin($i)], range(1, 478))],
            $name === 'limit' => ['telltale' => 'drift', 'limit' => 3],
            $name === 'cures' => ['telltale' => 'drift', 'area' => 'face'],
            $name === 'follows' => ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9],
            $name === 'deliveries' => ['format' => 'ffv1', 'from' => 0, 'to' => 5, 'slip' => 'a1b2c3d4'],
            $name === 'uploads' => ['name' => 'clip.mkv', 'size' => 1000],
            $name === 'shot', $uri === 'api/uploads/{upload}' => ['from' => 0, 'to' => 5],
            $name === 'order' => ['shots' => [$shot->id ?? 1]],
            $name === 'versions', str_contains($uri, 'versions/') => ['name' => 'As it was'],
            $name === 'svg' => ['text' => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0L1 1L2 0Z"/></svg>'],
            $name === 'cubes' => ['text' => "LUT_1D_SIZE 2\n0 0 0\n1 1 1\n"],
            $name === 'cdl' => ['text' => self::CDL],
            $name === 'history' => ['before' => 3],
            default => ['name' => 'A name', 'notes' => 'A note', 'view' => 'original', 'frame' => 3],
        };
    }
}
