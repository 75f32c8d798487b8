<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\PictureRequest;
use App\Http\Requests\PicturesRequest;
use App\Http\Requests\ScopeRequest;
use App\Http\Requests\WitnessRequest;
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
    public function __construct(private readonly ShotPictures $pictures) {}

    public function picture(PictureRequest $request, Shot $shot): Response
    {
        $picture = $this->pictures->picture($shot, $request->wanted());

        return self::jpeg($picture->jpeg, ['X-Picture-Place' => $picture->place()]);
    }

    /**
     * Pictures of several frames, each sent as soon as it is made: a line of JSON that says its frame, place and length, then so many
     * bytes. What goes wrong after the first is told in such a line.
     */
    public function pictures(PicturesRequest $request, Shot $shot, ExceptionHandler $failures): StreamedResponse
    {
        $pictures = $this->pictures->run($shot, $request->wanted(), $request->frames());
        // So that what is wrong with all of them is answered like anything else.
        $pictures->valid();

        return new StreamedResponse(static function () use ($pictures, $request, $failures): void {
            try {
                for (; $pictures->valid(); $pictures->next()) {
                    $picture = $pictures->current();
                    echo json_encode(['frame' => $pictures->key(), 'place' => $picture->place(), 'full' => $picture->full, 'bytes' => strlen($picture->jpeg)]), "\n", $picture->jpeg;
                    flush();
                    set_time_limit((int) config('limits.picture.cpu_seconds'));
                }
            } catch (\Throwable $e) {
                $failures->report($e);
                echo $failures->render($request, $e)->getContent(), "\n";
            }
        }, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store', 'X-Accel-Buffering' => 'no']);
    }

    public function witness(WitnessRequest $request, Shot $shot): Response
    {
        return self::jpeg($this->pictures->witness($shot, $request->wanted(), $request->width()));
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

    /** @param array<string, string> $headers */
    private static function jpeg(string $jpeg, array $headers = []): Response
    {
        return new Response($jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-store', ...$headers]);
    }
}
