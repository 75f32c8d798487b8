<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Models\Footage;
use Cossel\Core\Colour\Cube;
use Cossel\Core\Colour\InvalidCube;
use Cossel\Core\Recipe\Recipe;
use Illuminate\Contracts\Filesystem\Filesystem;

/** Files that recipes name besides their footage: look-up tables by the SHA-256 of their content, footage already here. */
final class AssetFiles
{
    public const CUBE = 'cube';
    public const FOOTAGE = 'footage';

    public function __construct(private readonly Filesystem $disk, private readonly FrameCache $frames) {}

    /**
     * @return string its sha256
     *
     * @throws InvalidCube
     */
    public function keepCube(string $text): string
    {
        Cube::parse($text);
        $sha256 = hash('sha256', $text);
        $this->disk->put(self::path($sha256), $text);

        return $sha256;
    }

    public function has(string $sha256, string $kind): bool
    {
        return $kind === self::CUBE ? $this->disk->exists(self::path($sha256)) : Footage::where('sha256', $sha256)->exists();
    }

    public function of(Recipe $recipe): RecipeAssets
    {
        return new RecipeAssets(
            $recipe,
            $this->frames,
            fn(string $sha256): ?string => $this->disk->exists(self::path($sha256)) ? $this->disk->get(self::path($sha256)) : null,
            static fn(string $sha256): ?FootageFile => Footage::where('sha256', $sha256)->first()?->file(),
        );
    }

    private static function path(string $sha256): string
    {
        return "assets/{$sha256}.cube";
    }
}
