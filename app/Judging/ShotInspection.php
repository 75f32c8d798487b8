<?php

declare(strict_types=1);

namespace App\Judging;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\FrameReader;
use Cossel\Core\Telltale\Inspection;

/** Looks frames of footage over, each at the sizes that tell-tales want. */
final class ShotInspection
{
    public function __construct(private readonly FrameCache $frames, private readonly FrameReader $reader) {}

    /**
     * @param list<int> $numbers in order
     *
     * @return \Generator<int, array<string, array<string, list<float>>>> looks by frame, tell-tale and area
     */
    public function looks(Inspection $inspection, FootageFile $footage, array $numbers): \Generator
    {
        $rows = FrameCache::kept($footage->info, Inspection::ROWS);
        // Looked at once, and large: not worth keeping.
        $fine = $this->reader->some($footage, array_values(array_filter($numbers, static fn(int $number): bool => $number % Inspection::FINE_EVERY === 0)));
        foreach ($numbers as $number) {
            $looks = $inspection->coarse($this->frames->frame($footage, $number, $rows), $number);
            if ($fine->valid() && $fine->key() === $number) {
                $looks += $inspection->fine($fine->current(), $number);
                $fine->next();
            }
            yield $number => $looks;
        }
    }
}
