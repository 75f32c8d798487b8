<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks to carry some of a shot's treatment to other shots. */
final class CarryRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'areas' => ['present', 'array', 'max:200'],
            'areas.*' => ['string', 'max:64'],
            'touches' => ['nullable', 'array', 'max:2000'],
            'touches.*' => ['string', 'max:64'],
            'base' => ['required', 'boolean'],
            'finish' => ['required', 'boolean'],
            'replace' => ['required', 'boolean'],
            'match' => ['required', 'boolean'],
            'shots' => ['required', 'array', 'max:1000'],
            'shots.*' => ['integer'],
        ];
    }

    /** @return array{areas: list<string>, touches: list<string>|null, base: bool, finish: bool, replace: bool, match: bool} */
    public function what(): array
    {
        return [
            'areas' => array_values($this->validated('areas')),
            'touches' => $this->validated('touches') === null ? null : array_values($this->validated('touches')),
            'base' => $this->boolean('base'),
            'finish' => $this->boolean('finish'),
            'replace' => $this->boolean('replace'),
            'match' => $this->boolean('match'),
        ];
    }

    /** @return list<int> */
    public function shots(): array
    {
        return array_map(intval(...), array_values($this->validated('shots')));
    }
}
