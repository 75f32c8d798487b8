<?php

declare(strict_types=1);

namespace App\Http\Resources;

use Cossel\Core\Telltale\Finding;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * What one tell-tale says of an area, or of the whole frame, over the shot.
 *
 * @property Finding $resource
 */
final class FindingResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $finding = $this->resource;

        return [
            'telltale' => $finding->telltale->name,
            'sentence' => $finding->telltale->sentence,
            'before' => $finding->before,
            'unit' => $finding->telltale->unit,
            'area' => $finding->area?->id,
            'limit' => $finding->limit,
            'usual' => $finding->telltale->limit,
            'most' => $finding->telltale->most,
            'measure' => round($finding->measure(), 3),
            'worst' => $finding->worst(),
            'rings' => $finding->rings(),
            'spans' => $finding->spans(),
            'measures' => array_map(static fn(int $frame, float $measure): array => [$frame, round($measure, 3)], array_keys($finding->measures), $finding->measures),
        ];
    }
}
