<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FootageFile;
use App\Footage\Probe;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\RecipeReader;

/** The finished demo shots, to measure on. */
final class DemoShots
{
    /** @var array<string, DemoShot> */
    private array $known = [];

    public function __construct(private readonly Probe $probe, private readonly RecipeReader $reader) {}

    public function named(string $name): DemoShot
    {
        return $this->known[$name] ??= $this->read($name);
    }

    private function read(string $name): DemoShot
    {
        $path = base_path("demo/footage/{$name}.webm");
        $tracks = [];
        foreach (glob(base_path("demo/recipes/{$name}.*.track.json")) ?: [] as $file) {
            $track = Track::read(self::json($file));
            $tracks[hash('sha256', $track->json())] = $track;
        }

        return new DemoShot(new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path)), self::json(base_path("demo/recipes/{$name}.recipe.json")), $tracks, $this->reader);
    }

    /** @return array<string, mixed> */
    private static function json(string $file): array
    {
        return json_decode((string) file_get_contents($file), true, flags: JSON_THROW_ON_ERROR);
    }
}
