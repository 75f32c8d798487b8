<?php

declare(strict_types=1);

namespace App\Judging;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Telltale\Inspection;

/** Looks frames of footage over, each at the sizes that tell-tales want. */
final class ShotInspection
{
    public function __construct(private readonly FrameCache $frames) {}

    /**
     * @param iterable<int> $numbers
     *
     * @return \Generator<int, array<string, array<string, list<float>>>> looks by frame, tell-tale and area
     */
    public function looks(Inspection $inspection, FootageFile $footage, iterable $numbers): \Generator
    {
        $rows = FrameCache::kept($footage->info, Inspection::ROWS);
        foreach ($numbers as $number) {
            $looks = $inspection->coarse($this->frames->frame($footage, $number, $rows), $number);
            if ($number % Inspection::FINE_EVERY === 0) {
                $looks += $inspection->fine($this->frames->frame($footage, $number, $footage->info->height), $number);
            }
            yield $number => $looks;
        }
    }
}
