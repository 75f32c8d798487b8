<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks for an area's pick with samples added, or with its ranges following the light or not. */
final class PickRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            ...parent::rules(),
            'sign' => ['nullable', 'in:+,-'],
            'from' => ['required_with:sign', 'array', 'size:2'], 'from.*' => self::PLACE,
            'to' => ['required_with:sign', 'array', 'size:2'], 'to.*' => self::PLACE,
            'follow' => ['required', 'boolean'],
        ];
    }

    /** @return array{array{float, float}, array{float, float}, bool}|null from, to, and whether it is taken or left */
    public function sample(): ?array
    {
        $sign = $this->validated('sign');

        return $sign === null ? null : [$this->pair('from'), $this->pair('to'), $sign === '+'];
    }

    public function follows(): bool
    {
        return (bool) $this->validated('follow');
    }
}
