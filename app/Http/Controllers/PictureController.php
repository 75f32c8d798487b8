<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\PictureRequest;
use App\Http\Requests\PicturesRequest;
use App\Http\Requests\ScopeRequest;
use App\Http\Requests\WitnessesRequest;
use App\Models\Shot;
use App\Pictures\Readings;
use App\Pictures\ShotPictures;
use App\Pictures\View;
use App\Treatment\Recipes;
use Illuminate\Contracts\Debug\ExceptionHandler;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Pictures for the bench, of the recipe as it is saved, of an earlier revision, or of one that is not saved yet. */
final class PictureController
{
    public function __construct(private readonly ShotPictures $pictures, private readonly ExceptionHandler $failures) {}

    public function picture(PictureRequest $request, Shot $shot): Response
    {
        $picture = $this->pictures->picture($shot, $request->wanted());

        return self::jpeg($picture->jpeg, ['X-Picture-Place' => $picture->place()]);
    }

    /** Pictures of several frames, alike but for that. */
    public function pictures(PicturesRequest $request, Shot $shot): StreamedResponse
    {
        return $this->stream($request, (function () use ($request, $shot): \Generator {
            foreach ($this->pictures->run($shot, $request->wanted(), $request->frames()) as $frame => $picture) {
                yield [['frame' => $frame, 'place' => $picture->place(), 'full' => $picture->full], $picture->jpeg];
            }
        })());
    }

    /** Crops of an area held still. */
    public function witnesses(WitnessesRequest $request, Shot $shot): StreamedResponse
    {
        return $this->stream($request, (function () use ($request, $shot): \Generator {
            foreach ($this->pictures->witnesses($shot, $request->wanted(), $request->width(), $request->frames()) as $frame => $jpeg) {
                yield [['frame' => $frame], $jpeg];
            }
        })());
    }

    public function scope(ScopeRequest $request, Shot $shot, Readings $readings, Recipes $recipes): JsonResponse
    {
        $wanted = $request->wanted();
        $recipe = $request->recipe($recipes);
        $area = $wanted->area === null ? null : $recipe->area($wanted->area);

        return new JsonResponse($readings->scope($shot->readyFootage()->file(), $recipe, $wanted->frame, $wanted->view, $request->scope(), $area, $request->limited() && $area !== null, $request->zoom()));
    }

    public function poster(Request $request, Shot $shot): Response
    {
        return self::jpeg($this->pictures->poster($shot, $request->query('view') === 'original' ? View::Original : View::Result));
    }

    /**
     * Sends each as soon as it is made: a line of JSON that says what it is and its length, then so many bytes. What goes wrong after the
     * first is told in such a line.
     *
     * @param \Generator<int, array{array<string, mixed>, string}> $made
     */
    private function stream(Request $request, \Generator $made): StreamedResponse
    {
        // So that what is wrong with all of them is answered like anything else.
        $made->valid();

        return new StreamedResponse(function () use ($made, $request): void {
            try {
                for (; $made->valid(); $made->next()) {
                    [$told, $jpeg] = $made->current();
                    echo json_encode([...$told, 'bytes' => strlen($jpeg)]), "\n", $jpeg;
                    flush();
                    set_time_limit((int) config('limits.picture.cpu_seconds'));
                }
            } catch (\Throwable $e) {
                $this->failures->report($e);
                echo $this->failures->render($request, $e)->getContent(), "\n";
            }
        }, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store', 'X-Accel-Buffering' => 'no']);
    }

    /** @param array<string, string> $headers */
    private static function jpeg(string $jpeg, array $headers = []): Response
    {
        return new Response($jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-store', ...$headers]);
    }
}
