<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Shot;
use Illuminate\Foundation\Http\FormRequest;

/** Asks something of a shot whose footage is there. */
abstract class ShotRequest extends FormRequest
{
    /** A coordinate in picture heights; a little outside the picture is allowed. */
    protected const PLACE = ['numeric', 'between:-20,20'];

    public function shot(): Shot
    {
        $shot = $this->route('shot');
        \assert($shot instanceof Shot);

        return $shot;
    }

    protected function prepareForValidation(): void
    {
        $this->shot()->readyFootage();
    }

    /** @return list<string> rules for a frame of the shot's span */
    protected function ofSpan(): array
    {
        return ['required', 'integer', "between:{$this->shot()->from},{$this->shot()->to}"];
    }

    /** @return array{float, float} */
    protected function pair(string $name): array
    {
        $pair = array_values($this->validated($name));

        return [(float) $pair[0], (float) $pair[1]];
    }
}
