<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Makes a shot of what lies in a folder of the server. */
final class FolderRequest extends FormRequest
{
    use WantsSpan;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['path' => ['required', 'string', 'max:900'], ...$this->ofFrames()];
    }

    public function source(): string
    {
        return $this->validated('path');
    }
}
