<?php

declare(strict_types=1);

namespace App\Following;

use App\Models\Follow;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\UnknownId;

/** A follow put into a recipe's document. */
final class Following
{
    /**
     * @param array<string, mixed> $document
     * @param string|null          $track   sha256
     * @param Model|null           $model   the way it is followed, where that is not up to the recipe
     * @param bool                 $guarded whether what is done there is to go with closed lids or lips
     *
     * @return array<string, mixed>
     *
     * @throws UnknownId
     */
    public static function into(array $document, Follow $follow, ?string $track, ?Model $model = null, bool $guarded = false): array
    {
        foreach ($document['areas'] as &$area) {
            if ($area['id'] !== $follow->area) {
                continue;
            }
            if ($guarded) {
                $area['blinkGuard'] = ['keys' => [], ...$area['blinkGuard'] ?? [], 'on' => true];
            }
            if ($follow->shape === null) {
                $area['motion'] = self::motion($area['motion'], $follow, $track, $model);

                return $document;
            }
            foreach ($area['outline']['shapes'] as &$shape) {
                if ($shape['id'] === $follow->shape) {
                    $shape['motion'] = self::motion($shape['motion'] ?? $area['motion'], $follow, $track, $model);

                    return $document;
                }
            }
        }

        throw UnknownId::area($follow->area);
    }

    /**
     * @param array<string, mixed> $motion
     *
     * @return array<string, mixed>
     */
    private static function motion(array $motion, Follow $follow, ?string $track, ?Model $model): array
    {
        unset($motion['on']);

        return [
            'model' => Model::Similarity->value,
            'look' => ['by' => 'outline', 'margin' => 0],
            ...$motion,
            ...($model === null ? [] : ['model' => $model->value]),
            'by' => Motion::FOLLOW,
            'start' => $follow->start,
            'span' => [$follow->from, $follow->to],
            'track' => $track === null ? null : ['sha256' => $track],
        ];
    }
}
