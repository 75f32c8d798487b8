<?php

declare(strict_types=1);

namespace App\Http\Resources;

use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Parameter;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Kind */
final class KindResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'name' => $this->name(),
            'inArea' => $this->resource instanceof InArea,
            'last' => $this->resource instanceof Legal,
            'parameters' => array_map(static fn(Parameter $parameter): array => ['type' => strtolower((new \ReflectionClass($parameter))->getShortName()), ...get_object_vars($parameter)], $this->parameters()),
        ];
    }
}
