<?php

declare(strict_types=1);

namespace App\Http;

use App\Carrying\CannotCarry;
use App\Deliveries\DeliveryNotReady;
use App\Faces\CannotFindFaces;
use App\Faces\StillMeasuring;
use App\Following\CannotFollow;
use App\Footage\FfmpegInterrupted;
use App\Footage\RefusedFootage;
use App\Footage\StorageFull;
use App\Footage\UnreadableFootage;
use App\Models\ShotNotReady;
use App\Pictures\TooCostly;
use App\Treatment\StaleEdit;
use App\Treatment\TooManySamples;
use App\Work\Patience;
use Cossel\Core\Colour\InvalidCdl;
use Cossel\Core\Colour\InvalidCube;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Motion\MissingTrack;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\UnknownId;
use Cossel\Core\Touch\MissingAsset;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\ErrorHandler\Error\FatalError;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** What each kind of failure is answered with: a status and a sentence for people. */
final class ErrorAnswers
{
    public static function register(Exceptions $exceptions): void
    {
        $exceptions->shouldRenderJsonWhen(static fn(Request $request): bool => $request->is('api/*'));
        $exceptions->dontReport([InvalidRecipe::class, UnknownId::class, StaleEdit::class, RefusedFootage::class, UnreadableFootage::class, MissingTrack::class, MissingAsset::class, InvalidCube::class, InvalidCdl::class, InvalidCut::class, DeliveryNotReady::class, ShotNotReady::class, CannotFollow::class, CannotCarry::class, TooManySamples::class, TooCostly::class, StillMeasuring::class]);
        $exceptions->render(static fn(InvalidRecipe $e): JsonResponse => self::answer(422, $e->getMessage(), ['pointer' => $e->pointer, 'expected' => $e->expected]));
        $exceptions->render(static fn(UnknownId $e): JsonResponse => self::answer(404, $e->getMessage()));
        $exceptions->render(static fn(MissingTrack|MissingAsset $e): JsonResponse => self::answer(409, $e->getMessage()));
        $exceptions->render(static fn(StaleEdit $e): JsonResponse => self::answer(409, $e->getMessage(), ['pointer' => $e->pointer]));
        $exceptions->render(static fn(DeliveryNotReady|ShotNotReady|CannotFollow|CannotCarry $e): JsonResponse => self::answer(409, $e->getMessage()));
        $exceptions->render(static fn(RefusedFootage|UnreadableFootage|InvalidCube|InvalidCdl|InvalidCut|TooManySamples|TooCostly $e): JsonResponse => self::answer(422, $e->getMessage()));
        $exceptions->render(static fn(StillMeasuring $e): JsonResponse => self::answer(503, $e->getMessage())->withHeaders(['Retry-After' => '1']));
        $exceptions->render(static fn(CannotFindFaces $e): JsonResponse => self::answer(503, $e->getMessage()));
        $exceptions->render(static fn(FfmpegInterrupted $e): JsonResponse => self::answer(503, $e->getMessage()));
        $exceptions->render(static fn(StorageFull $e): JsonResponse => self::answer(507, $e->getMessage()));
        $exceptions->render(static fn(FatalError $e): JsonResponse => self::answer(503, str_contains($e->getMessage(), 'execution time')
            ? sprintf('This takes longer than %d seconds. Make the treatment simpler, or look at it smaller.', config('limits.picture.cpu_seconds'))
            : 'This needs more memory than it may have. Make the treatment simpler, or look at it smaller.'));
        $exceptions->render(static function (\Throwable $e, Request $request): ?JsonResponse {
            if (!$request->is('api/*')) {
                return null;
            }

            return match (true) {
                StorageFull::causes($e) => self::answer(507, StorageFull::full()->getMessage()),
                Patience::isLocked($e) => self::answer(503, 'The database is busy with something else. Nothing of this was saved; try it again.'),
                default => null,
            };
        });
        $exceptions->render(static function (NotFoundHttpException $e, Request $request): ?JsonResponse {
            if (!$request->is('api/*')) {
                return null;
            }
            $missing = $e->getPrevious();
            $what = $missing instanceof ModelNotFoundException ? lcfirst(class_basename($missing->getModel())) : 'address';

            return self::answer(404, "There is no such {$what}. It may have been deleted.");
        });
    }

    /** @param array<string, string> $more */
    private static function answer(int $status, string $message, array $more = []): JsonResponse
    {
        return new JsonResponse(['message' => $message, ...$more], $status);
    }
}
