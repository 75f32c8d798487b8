<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Colour\Cube;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\MissingAsset;

/** The files of one recipe, by the names it has for them. */
final class RecipeAssets implements Assets
{
    /** @var array<string, Cube> */
    private array $cubes = [];

    /**
     * @param \Closure(string): (string|null)      $text    a text file by its sha256
     * @param \Closure(string): (FootageFile|null) $footage footage by its sha256
     */
    public function __construct(private readonly Recipe $recipe, private readonly FrameCache $frames, private readonly \Closure $text, private readonly \Closure $footage) {}

    /**
     * Looks whether all are there.
     *
     * @throws MissingAsset
     */
    public function check(): void
    {
        foreach ($this->recipe->assets as $name => ['sha256' => $sha256, 'kind' => $kind]) {
            if (($kind === AssetFiles::CUBE ? $this->text : $this->footage)($sha256) === null) {
                throw MissingAsset::named($name);
            }
        }
    }

    public function cube(string $name): Cube
    {
        return $this->cubes[$name] ??= Cube::parse(($this->text)($this->sha256($name)) ?? throw MissingAsset::named($name));
    }

    public function frame(string $name, int $number, int $rows): Frame
    {
        $file = ($this->footage)($this->sha256($name)) ?? throw MissingAsset::named($name);
        $number = max(0, min($file->info->frames() - 1, $number));

        return $this->frames->frame($file, $number, FrameCache::kept($file->info, $rows));
    }

    private function sha256(string $name): string
    {
        return $this->recipe->assets[$name]['sha256'] ?? throw MissingAsset::named($name);
    }
}
