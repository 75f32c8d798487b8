<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Validation\Rule;

/** Names a version; two of a shot never have the same name. */
final class VersionRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['name' => ['required', 'string', 'max:60', Rule::unique('versions')->where('shot_id', $this->shot()->id)->ignore($this->route('version'))]];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return ['name.unique' => 'There is a version of this name already.'];
    }
}
