<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** All frames of a file, or from and to a frame. */
trait WantsSpan
{
    /** @return array{int, int|null}|null null for all frames */
    public function span(): ?array
    {
        [$from, $to] = [$this->validated('from'), $this->validated('to')];

        return $from === null && $to === null ? null : [(int) $from, $to === null ? null : (int) $to];
    }

    /** @return array<string, mixed> */
    private function ofFrames(): array
    {
        return ['from' => ['nullable', 'integer', 'min:0'], 'to' => ['nullable', 'integer', 'min:0', ...($this->input('from') === null ? [] : ['gte:from'])]];
    }
}
