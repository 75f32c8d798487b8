<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Keeps some of what is done in a shot under a name. */
final class KeepTreatmentRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['title' => ['required', 'string', 'max:80'], 'areas' => ['present', 'array', 'max:200'], 'areas.*' => ['string', 'max:64'], 'touches' => ['nullable', 'array', 'max:2000'], 'touches.*' => ['string', 'max:64'], 'base' => ['required', 'boolean'], 'finish' => ['required', 'boolean']];
    }

    public function title(): string
    {
        return $this->validated('title');
    }

    /** @return list<string>|null null for all */
    public function touches(): ?array
    {
        return $this->validated('touches') === null ? null : array_values($this->validated('touches'));
    }

    /** @return list<string> */
    public function areas(): array
    {
        return array_values($this->validated('areas'));
    }
}
