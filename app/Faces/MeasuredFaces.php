<?php

declare(strict_types=1);

namespace App\Faces;

use Cossel\Core\Face\FaceSource;

/** Faces of a span of footage as they were measured. */
final readonly class MeasuredFaces implements FaceSource
{
    /** @param array<int, list<\Cossel\Core\Face\Mesh>> $faces by frame */
    public function __construct(private array $faces, private int $from, private int $to) {}

    public function span(): array
    {
        return [$this->from, $this->to];
    }

    public function on(int $frame): array
    {
        return $this->faces[$frame] ?? [];
    }

    /** The frame nearest to another on which somebody is seen; null where there is none. */
    public function nearest(int $frame): ?int
    {
        $nearest = null;
        foreach ($this->faces as $number => $faces) {
            if ($faces !== [] && ($nearest === null || abs($number - $frame) < abs($nearest - $frame))) {
                $nearest = $number;
            }
        }

        return $nearest;
    }
}
