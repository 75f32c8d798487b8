<?php

declare(strict_types=1);

namespace App\Work;

use App\Deliveries\DeliveryNotReady;
use App\Footage\FfmpegFailed;
use App\Footage\FfmpegInterrupted;
use App\Footage\RefusedFootage;
use App\Footage\StorageFull;
use App\Footage\UnreadableFootage;
use App\Models\ShotNotReady;
use App\Pictures\TooCostly;
use App\Treatment\StaleEdit;
use Cossel\Core\Motion\MissingTrack;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\UnknownId;
use Cossel\Core\Touch\MissingAsset;

/** What a person reads of background work that failed. Exceptions meant for people speak for themselves; others are in the log. */
final class Said
{
    private const FOR_PEOPLE = [StorageFull::class, DeliveryNotReady::class, FfmpegFailed::class, FfmpegInterrupted::class, RefusedFootage::class, UnreadableFootage::class, ShotNotReady::class, StaleEdit::class, MissingTrack::class, InvalidRecipe::class, UnknownId::class, MissingAsset::class, TooCostly::class, OutOfMemory::class];

    public static function of(?\Throwable $reason): string
    {
        if ($reason !== null && StorageFull::causes($reason)) {
            return StorageFull::full()->getMessage();
        }
        foreach (self::FOR_PEOPLE as $class) {
            if ($reason instanceof $class) {
                return $reason->getMessage();
            }
        }

        return $reason === null ? 'The worker broke off. Try it again.' : 'Something went wrong that Cossel did not expect; the log of the server tells what. Try it again.';
    }
}
