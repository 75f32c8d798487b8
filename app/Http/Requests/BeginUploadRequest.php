<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Footage\RefusedFootage;
use Illuminate\Foundation\Http\FormRequest;

/** Announces a file that is about to come in. */
final class BeginUploadRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['name' => ['required', 'string', 'max:200'], 'size' => ['required', 'integer', 'min:1']];
    }

    protected function passedValidation(): void
    {
        $limit = (int) config('limits.footage.upload_bytes');
        if ($this->size() > $limit) {
            throw RefusedFootage::uploadSize($limit);
        }
    }

    public function name(): string
    {
        return basename($this->validated('name'));
    }

    public function size(): int
    {
        return (int) $this->validated('size');
    }
}
