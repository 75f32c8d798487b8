<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Models\Footage;

/** All footage by the names it may be asked for by. */
final class KnownFootage
{
    /** @var array<string, int>|null ids of the newest by their names */
    private ?array $ids = null;
    /** @var array<int, Footage> */
    private array $read = [];

    public function of(CutPlace $place): ?Footage
    {
        $this->ids ??= self::ids();
        $found = array_filter(array_map(fn(string $name): ?int => $this->ids[$name] ?? null, $place->media()));

        return $found === [] ? null : $this->read[max($found)] ??= Footage::findOrFail(max($found));
    }

    /** @return array<string, int> */
    private static function ids(): array
    {
        $ids = [];
        foreach (Footage::query()->toBase()->orderBy('id')->select('id', 'name')->cursor() as $footage) {
            $ids[CutPlace::mediaName($footage->name)] = $footage->id;
        }

        return $ids;
    }
}
