<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use App\Treatment\RecipeAssets;
use Cossel\Core\Recipe\Recipe;

/** Files that a recipe names, found in a folder by the SHA-256 of their content, whatever they are called. */
final class FolderAssets
{
    private const MOST_TEXT = 16_000_000;

    /** @var array<string, array<string, string>> by folder: paths by sha256 */
    private array $found = [];

    public function __construct(private readonly FrameCache $frames, private readonly Probe $probe) {}

    public function of(Recipe $recipe, ?string $folder): RecipeAssets
    {
        return new RecipeAssets(
            $recipe,
            $this->frames,
            function (string $sha256) use ($folder): ?string {
                $path = $this->path($folder, $sha256);

                return $path === null || filesize($path) > self::MOST_TEXT ? null : (string) file_get_contents($path);
            },
            function (string $sha256) use ($folder): ?FootageFile {
                $path = $this->path($folder, $sha256);

                return $path === null ? null : new FootageFile($path, $sha256, $this->probe->read($path), basename($path));
            },
        );
    }

    private function path(?string $folder, string $sha256): ?string
    {
        if ($folder === null) {
            return null;
        }
        if (!isset($this->found[$folder])) {
            $this->found[$folder] = [];
            foreach (glob(rtrim($folder, '/') . '/*') ?: [] as $path) {
                if (is_file($path)) {
                    $this->found[$folder][(string) hash_file('sha256', $path)] = (string) realpath($path);
                }
            }
        }

        return $this->found[$folder][$sha256] ?? null;
    }
}
