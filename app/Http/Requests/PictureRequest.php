<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Pictures\View;
use App\Pictures\Wanted;
use Illuminate\Validation\Rule;

/** Asks for a picture of a frame: which view of it, how large, and which part. */
class PictureRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            ...parent::rules(),
            'view' => ['bail', 'required', 'string', Rule::enum(View::class)],
            'area' => ['nullable', 'string', 'max:64'],
            'height' => ['required', 'integer', 'between:16,8192'],
            'revision' => ['nullable', 'integer'],
            'gain' => ['nullable', 'integer', 'between:1,16'],
            'window' => ['nullable', 'array', 'size:4'],
            'window.*' => self::PLACE,
            'standing' => ['nullable', 'integer'],
            'full' => ['nullable', 'integer', 'between:16,8192'],
        ];
    }

    public function wanted(): Wanted
    {
        $window = $this->validated('window');
        $edges = array_values($window ?? []);
        $number = fn(string $name): ?int => $this->validated($name) === null ? null : (int) $this->validated($name);

        return new Wanted(
            $this->frame(),
            View::from($this->validated('view')),
            $this->validated('area'),
            (int) $this->validated('height'),
            $window === null ? null : [(float) $edges[0], (float) $edges[1], (float) $edges[2], (float) $edges[3]],
            (int) ($this->validated('gain') ?? 1),
            $number('revision'),
            $this->unsaved(),
            $number('standing'),
            $number('full'),
        );
    }
}
