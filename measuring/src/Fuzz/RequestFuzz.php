<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Models\Delivery;
use App\Models\Shot;
use App\Models\Version;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Illuminate\Support\Str;

/** Requests to every route: with what belongs there, changed here and there, and with what nobody expects. Their work is done at once. */
final class RequestFuzz implements Fuzz
{
    private const CDL = '<ColorCorrection id="a"><SOPNode><Slope>1 1 1</Slope></SOPNode></ColorCorrection>';
    /** Asked less often: they take away what others ask for. */
    private const TAKES_AWAY = ['api/jobs/{job}', 'api/shots/{shot}'];

    private string $asked = '';

    /** @param \Closure(): void $restore brings a job with treated shots back where a request has taken it away */
    public function __construct(private readonly Kernel $kernel, private readonly \Closure $restore, private readonly Rows $rows, private readonly Texts $texts) {}

    public function name(): string
    {
        return 'requests';
    }

    public function about(): string
    {
        return $this->asked;
    }

    public function seconds(): float
    {
        // What is carried is followed and looked at in the background elsewhere; here it is done before the answer.
        return str_contains($this->asked, '/carries') ? 10 * self::MOST_SECONDS : self::MOST_SECONDS;
    }

    public function try(Dice $dice): ?string
    {
        config(['queue.default' => 'sync']);
        if (Shot::where('state', 'ready')->where('revision', '>', 1)->count() < 2) {
            ($this->restore)();
        }
        $routes = array_values(array_filter(Route::getRoutes()->getRoutes(), static fn($route): bool => !$route->isFallback));
        $route = $dice->one($routes);
        $method = $dice->one(array_diff($route->methods(), ['HEAD']));
        if ($method === 'DELETE' && in_array($route->uri(), self::TAKES_AWAY, true) && $dice->happens(0.9)) {
            $method = 'GET';
        }
        $uri = '/' . preg_replace_callback('/\{(\w+)\}/', fn(array $m): string => rawurlencode($this->rows->id($m[1], $route->uri(), $dice)), $route->uri());
        $request = $this->request($route->uri(), $method, $uri, $dice);
        $this->asked = "{$method} {$uri} " . mb_strimwidth((string) $request->getContent(), 0, 300, '…');
        $request->headers->set('Host', '127.0.0.1');
        $request->headers->set('Accept', 'application/json');
        try {
            $response = $this->kernel->handle($request);
        } finally {
            while (DB::transactionLevel() > 0) {
                DB::rollBack();
            }
        }

        // Whether all is well may be answered with no.
        return $response->getStatusCode() < 500 || ($route->uri() === 'up' && $response->getStatusCode() === 503) ? null : sprintf('%d %s', $response->getStatusCode(), mb_strimwidth((string) $response->getContent(), 0, 300, '…'));
    }

    private function request(string $route, string $method, string $uri, Dice $dice): Request
    {
        if ($route === 'api/uploads/{upload}' && $method === 'PUT') {
            $bytes = $dice->happens(0.5) ? $this->texts->film($dice) : $this->texts->bundle($dice);

            return Request::create($uri . '?offset=' . $dice->one(['0', '0', '0', '-1', '9e9', 'x', '4']), 'PUT', server: ['CONTENT_TYPE' => 'application/octet-stream'], content: $bytes);
        }
        $asked = $this->body($route, $dice);
        $body = $dice->happens(0.3) ? $asked : Mutation::ofDocument($asked, $dice);
        if ($method === 'GET') {
            return Request::create($uri, 'GET', is_array($body) ? $body : []);
        }
        $json = (string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR);

        return Request::create($uri, $method, server: ['CONTENT_TYPE' => $dice->happens(0.97) ? 'application/json' : 'text/plain'], content: $dice->happens(0.97) ? $json : Mutation::ofText($json, $dice));
    }

    /** What belongs to a route, with nothing wrong in it. */
    private function body(string $uri, Dice $dice): mixed
    {
        $shot = Rows::shot();
        $recipe = $shot?->presentRevision()->first()?->document();
        $frame = ['frame' => $dice->whole(0, 11), ...($dice->happens(0.5) ? ['recipe' => $recipe] : [])];
        $picture = [...$frame, 'view' => $dice->one(['result', 'original', 'base', 'matte', 'tint', 'picked', 'difference', 'without']), 'area' => 'face', 'height' => $dice->one([16, 32, 64]), 'gain' => 4, 'standing' => 1, 'full' => 64, 'window' => [0.1, 0.1, 0.5, 0.6], 'revision' => 1];
        $others = Shot::where('job_id', $shot?->job_id)->whereKeyNot($shot?->id)->limit(2)->pluck('id')->all();
        $order = ['format' => $dice->one(['ffv1', 'png', 'exr', 'vp9']), 'handles' => true, 'name' => '{shot}_{version}', 'height' => null, 'beside' => [$dice->one(['recipe', 'tracks', 'outlines', 'cdl', 'cube33', 'report'])], 'burn' => $dice->happens(0.3), 'mattes' => $dice->one([null, 'png', 'exr'])];
        $carried = ['areas' => ['face'], 'touches' => null, 'base' => true, 'finish' => false];
        $slip = ['slip' => Str::random(12)];
        $name = substr($uri, strrpos($uri, '/') + 1);

        return match (true) {
            $name === 'picture', $name === 'poster' => $picture,
            $name === 'pictures' => [...$picture, 'frames' => [$dice->whole(0, 11), $dice->whole(0, 11)]],
            $name === 'witnesses' => [...$picture, 'frames' => [$dice->whole(0, 11)], 'width' => 32],
            $name === 'scope' => [...$picture, 'scope' => $dice->one(['waveform', 'parade', 'vectorscope', 'histogram']), 'limited' => true, 'zoom' => 2],
            $name === 'recipe' => ['base' => $shot->revision ?? 1, 'label' => 'Face, exposure', 'recipe' => $recipe],
            in_array($name, ['undo', 'redo', 'restore'], true) => ['base' => $shot->revision ?? 1],
            $name === 'beside', $name === 'match' => [...$frame, 'other' => $others[0] ?? 1, 'otherFrame' => $dice->whole(0, 11), 'areas' => ['face'], 'base' => $dice->happens(0.5)],
            in_array($name, ['pick', 'sample', 'cover', 'other', 'colours'], true) => [...$frame, 'at' => [0.7, 0.5], 'sign' => '+', 'from' => [0.6, 0.4], 'to' => [0.8, 0.6], 'follow' => true],
            $name === 'edge' => [...$frame, 'from' => [0.5, 0.5], 'to' => [0.6, 0.6]],
            str_ends_with($uri, 'follows/person') => ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9],
            $name === 'person' => $frame,
            $name === 'limit' => ['telltale' => 'drift', 'limit' => 3],
            $name === 'cures' => ['telltale' => $dice->one(['drift', 'halo', 'levels']), 'area' => 'face'],
            $name === 'follows' => ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9],
            $uri === 'api/treatments', str_ends_with($uri, '{treatment}/carries') => ['shots' => $others, 'person' => 'wren', 'replace' => false],
            $name === 'carries' => [...$carried, 'shots' => $others, 'replace' => $dice->happens(0.5), 'match' => $dice->happens(0.5)],
            str_ends_with($uri, '{shot}/treatments') => [...$carried, 'title' => 'Warm'],
            $name === 'treatments' => ['title' => 'Warm', 'text' => (string) json_encode($recipe)],
            $name === 'presets' => [...$order, 'title' => 'Reviews'],
            str_ends_with($uri, 'jobs/{job}/deliveries') => [...$order, ...$slip, 'shots' => [$shot->id ?? 1, ...$others]],
            str_ends_with($uri, 'deliveries/order') => ['deliveries' => Delivery::pluck('id')->all()],
            $name === 'deliveries' => [...$order, ...$slip, 'from' => 0, 'to' => 5],
            $name === 'notes', $name === '{frameNote}' => $dice->happens(0.5) ? ['frame' => 3, 'text' => 'Softer'] : ['resolved' => true],
            $name === 'folder', $name === 'folders' => ['path' => $dice->one(['reels', 'reels/clip.mkv', 'reels/row', 'reels/row/../clip.mkv', 'reels/pipe.mkv', 'reels/out', '']), 'from' => 0, 'to' => 5],
            $name === 'bundle' => ['footage' => 0, 'shots' => (string) ($shot->id ?? 1)],
            $name === 'cut' => ['rate' => '24/1', 'handles' => 2],
            $name === 'uploads' => ['name' => $dice->one(['clip.mkv', 'cut.edl', 'a.bundle.zip']), 'size' => 1000],
            $name === 'shot' => ['from' => 0, 'to' => 5],
            $name === 'order' => ['shots' => [...$others, $shot->id ?? 1]],
            $name === 'versions' => ['name' => 'As it was ' . Version::max('id')],
            str_contains($uri, 'versions/') => ['name' => 'As it was'],
            $name === '{shot}' => ['name' => 'gh010', 'notes' => 'Softer', 'base' => '', 'archived' => false],
            $name === 'svg' => ['text' => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0L1 1L2 0Z"/></svg>'],
            $name === 'cubes' => ['text' => "LUT_1D_SIZE 2\n0 0 0\n1 1 1\n"],
            $name === 'cdl' => ['text' => self::CDL],
            $name === 'history' => ['before' => 3],
            $name === 'targets' => ['person' => 'wren'],
            default => ['name' => 'A name', 'notes' => 'A note', 'view' => 'original', 'frame' => 3],
        };
    }
}
