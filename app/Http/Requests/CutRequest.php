<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Cuts\CutFile;
use App\Models\Upload;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Validator;

/** Brings in a cut that was sent: the rate that edit decision lists do not tell, and how long the handles are. */
final class CutRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'rate' => ['required', 'regex:#^[1-9]\d{0,5}/[1-9]\d{0,5}$#'],
            'handles' => ['required', 'integer', 'between:0,1000'],
        ];
    }

    /** @return list<\Closure> */
    public function after(): array
    {
        return [function (Validator $validator): void {
            $upload = $this->route('upload');
            $most = (int) config('limits.texts.cut_bytes');
            if ($upload instanceof Upload && !CutFile::is($upload->name)) {
                $validator->errors()->add('upload', 'A cut is an .otio or an .edl file.');
            } elseif ($upload instanceof Upload && $upload->size > $most) {
                $validator->errors()->add('upload', sprintf('A cut has at most %d MB.', intdiv($most, 1_000_000)));
            }
        }];
    }

    public function rate(): string
    {
        return $this->validated('rate');
    }

    public function handles(): int
    {
        return (int) $this->validated('handles');
    }
}
