<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Cuts\CutFile;
use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\Rate;
use Illuminate\Foundation\Http\FormRequest;

/** Brings in a cut: its file's name and text, the rate that edit decision lists do not tell, and how long the handles are. */
final class CutRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'name' => ['bail', 'required', 'string', 'max:200', static function (string $field, string $name, \Closure $fail): void {
                CutFile::is($name) || $fail('A cut is an .otio or an .edl file.');
            }],
            'text' => ['required', 'string', 'max:20000000'],
            'rate' => ['required', 'regex:#^[1-9]\d{0,5}/[1-9]\d{0,5}$#'],
            'handles' => ['required', 'integer', 'between:0,1000'],
        ];
    }

    public function cut(): Cut
    {
        return CutFile::read($this->validated('name'), $this->validated('text'), Rate::parse($this->validated('rate')));
    }

    public function handles(): int
    {
        return (int) $this->validated('handles');
    }
}
