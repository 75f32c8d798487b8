<?php

declare(strict_types=1);

namespace App\Treatment;

use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Recipe;
use Illuminate\Contracts\Filesystem\Filesystem;

/** Tracks by the SHA-256 of their content; written once, never changed. */
final class Tracks
{
    /** @var array<string, Track> */
    private array $read = [];

    public function __construct(private readonly Filesystem $disk) {}

    /** @return string its sha256 */
    public function keep(Track $track): string
    {
        $json = $track->json();
        $sha256 = hash('sha256', $json);
        if (!$this->has($sha256)) {
            $this->disk->put(self::path($sha256) . '.part', $json);
            $this->disk->move(self::path($sha256) . '.part', self::path($sha256));
        }

        return $sha256;
    }

    public function has(string $sha256): bool
    {
        return $this->disk->exists(self::path($sha256));
    }

    public function get(string $sha256): Track
    {
        return $this->read[$sha256] ??= Track::known(json_decode((string) $this->disk->get(self::path($sha256)), true, flags: JSON_THROW_ON_ERROR));
    }

    /** @return array<string, Track> by sha256: those a recipe needs and that are there */
    public function of(Recipe $recipe): array
    {
        $tracks = [];
        foreach ($recipe->tracks() as $sha256) {
            if ($this->has($sha256)) {
                $tracks[$sha256] = $this->get($sha256);
            }
        }

        return $tracks;
    }

    public static function path(string $sha256): string
    {
        return 'tracks/' . substr($sha256, 0, 2) . "/{$sha256}.json";
    }
}
