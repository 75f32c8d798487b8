<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Picture\Frame;

/** Some frames of a shot, evenly over its span, at a size that skin can be compared at. */
final class Frames
{
    public const ROWS = 270;
    private const MANY = 5;

    public function __construct(private readonly FrameCache $frames) {}

    /**
     * @param array{int, int} $span
     *
     * @return list<int> from the middle of the span outwards
     */
    public static function numbers(array $span, int $many = self::MANY): array
    {
        [$from, $to] = $span;
        $numbers = [];
        for ($k = 0; $k < $many; ++$k) {
            $numbers[] = (int) round($from + ($to - $from) * ($k + 0.5) / $many);
        }
        $middle = ($from + $to) / 2;
        $numbers = array_values(array_unique($numbers));
        usort($numbers, static fn(int $a, int $b): int => abs($a - $middle) <=> abs($b - $middle));

        return $numbers;
    }

    /**
     * @param list<int> $numbers
     *
     * @return array<int, Frame>
     */
    public function of(FootageFile $footage, array $numbers): array
    {
        $rows = FrameCache::kept($footage->info, self::ROWS);
        $frames = [];
        foreach ($numbers as $number) {
            $frames[$number] = $this->frames->frame($footage, $number, $rows);
        }

        return $frames;
    }
}
