<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Cossel\Core\Propose\Landmarks;

/** Asks for the areas of a person from the landmarks of a face. */
final class FindPersonRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            ...parent::rules(),
            'person' => ['nullable', 'string', 'max:64'],
            'landmarks' => ['required', 'array', 'size:' . Landmarks::COUNT],
            'landmarks.*' => ['array', 'size:2'],
            'landmarks.*.*' => self::PLACE,
        ];
    }

    public function face(): Landmarks
    {
        return Landmarks::of(array_map(static fn(array $p): array => [(float) $p[0], (float) $p[1]], array_values($this->validated('landmarks'))));
    }
}
