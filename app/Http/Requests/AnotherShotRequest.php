<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Shot;

/** Asks how a shot is like another, or what brings it there. */
final class AnotherShotRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'other' => ['required', 'integer'], 'otherFrame' => ['integer', 'min:0'], 'areas' => ['array', 'max:200'], 'areas.*' => ['string', 'max:64'], 'base' => ['boolean']];
    }

    public function other(): Shot
    {
        $other = Shot::where('job_id', $this->shot()->job_id)->findOrFail((int) $this->validated('other'));
        $other->readyFootage();

        return $other;
    }

    public function otherFrame(): int
    {
        $other = $this->other();

        return max($other->from, min($other->to, (int) $this->validated('otherFrame', $other->from)));
    }

    /** @return list<string> */
    public function areas(): array
    {
        return array_values($this->validated('areas', []));
    }
}
