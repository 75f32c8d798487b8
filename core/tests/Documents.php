<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Touch\Kinds;

/** Recipe documents for tests. */
final class Documents
{
    /**
     * @param array<string, mixed> $changes laid over the top level
     *
     * @return array<string, mixed>
     */
    public static function recipe(array $changes = []): array
    {
        return [
            'cossel' => 'recipe/1',
            'space' => 'bt709',
            'source' => ['sha256' => str_repeat('ab', 32), 'span' => [0, 83], 'rate' => '24/1', 'size' => [160, 90]],
            'assets' => [],
            'base' => [],
            'areas' => [],
            'finish' => [],
            ...$changes,
        ];
    }

    /**
     * @param array<string, mixed> $changes
     *
     * @return array<string, mixed>
     */
    public static function area(array $changes = []): array
    {
        return [
            'id' => 'face',
            'name' => 'Face',
            'outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.3], 'turn' => 10, 'featherIn' => 0.02, 'featherOut' => 0.05]]],
            'live' => ['from' => 0, 'to' => 83],
            'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1]],
            ...$changes,
        ];
    }

    /** @param array<string, mixed> $changes */
    public static function read(array $changes = []): Recipe
    {
        return (new RecipeReader(Kinds::all()))->read(self::recipe($changes));
    }
}
