<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Cossel\Core\Telltale\Telltale;
use Cossel\Core\Telltale\Telltales;
use Illuminate\Validation\Rule;

/** Sets how much of a tell-tale a shot may have; null for what the program thinks. */
final class LimitRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $most = self::most();
        $asked = $this->json('telltale');

        return [
            'telltale' => ['required', Rule::in(array_keys($most))],
            'limit' => ['present', 'nullable', 'numeric', 'between:0,' . ($most[is_string($asked) ? $asked : ''] ?? 0)],
        ];
    }

    /** @return array<string, float> how far the limit of each tell-tale can be moved */
    public static function most(): array
    {
        return array_column(array_map(static fn(Telltale $telltale): array => [$telltale->name, $telltale->most], Telltales::all()), 1, 0);
    }

    public function telltale(): string
    {
        return $this->validated('telltale');
    }

    public function limit(): ?float
    {
        $limit = $this->validated('limit');

        return $limit === null ? null : (float) $limit;
    }
}
