<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Makes a shot of a file that came in. */
final class FinishUploadRequest extends FormRequest
{
    use WantsSpan;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return $this->ofFrames();
    }
}
