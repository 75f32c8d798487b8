<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Cossel\Core\Propose\Landmarks;

/** Asks who is on a frame, with the landmarks of what may be faces there. */
final class FindPersonRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            ...parent::rules(),
            'faces' => ['present', 'array', 'max:12'],
            'faces.*' => ['array', 'size:' . Landmarks::COUNT],
            'faces.*.*' => ['array', 'size:2'],
            'faces.*.*.*' => self::PLACE,
        ];
    }

    /** @return list<Landmarks> */
    public function faces(): array
    {
        $points = static fn(array $face): array => array_map(static fn(array $p): array => [(float) $p[0], (float) $p[1]], array_values($face));

        return array_map(static fn(array $face): Landmarks => Landmarks::of($points($face)), array_values($this->validated('faces')));
    }
}
