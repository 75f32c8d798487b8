<?php

declare(strict_types=1);

namespace App\Bundles;

use App\Deliveries\DiskSpace;
use App\Footage\StorageFull;
use App\Models\Footage;
use App\Models\FrameNote;
use App\Models\Job;
use App\Models\Person;
use App\Models\Preset;
use App\Models\Revision;
use App\Models\Shot;
use App\Models\Treatment;
use App\Models\Version;
use App\Treatment\Tracks;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;

/**
 * One zip archive that moves a job, or some of its shots, to another installation: a manifest, and tracks, tables and, if asked,
 * footage by the SHA-256 of their content.
 */
final class BundleWriter
{
    public const FORMAT = 'bundle/1';
    public const MANIFEST = 'bundle.json';

    /** @param list<int>|null $ids of shots; null for all */
    public function write(Job $job, ?array $ids, bool $withFootage, string $file): void
    {
        $shots = $job->shots()->with(['footage', 'versions', 'frameNotes'])->where('revision', '>', 0)->when($ids !== null, static fn($shots) => $shots->whereKey($ids))->get();
        $documents = $shots->map(self::shot(...))->values()->all();
        $recipes = json_encode([$documents, $job->treatments->pluck('recipe')], JSON_THROW_ON_ERROR);
        preg_match_all('/[0-9a-f]{64}/', $recipes, $named);
        $footage = self::footage($shots, $named[0]);
        $withFootage && DiskSpace::check((int) $footage->sum(static fn(Footage $f): int => (int) @filesize($f->file()->path)), 'leave the footage out');
        $zip = new \ZipArchive();
        if ($zip->open($file, \ZipArchive::CREATE | \ZipArchive::OVERWRITE) !== true) {
            throw new \RuntimeException("{$file} cannot be written.");
        }
        $disk = Storage::disk('data');
        foreach (array_unique($named[0]) as $sha256) {
            foreach (["tracks/{$sha256}.json" => Tracks::path($sha256), "assets/{$sha256}.cube" => "assets/{$sha256}.cube"] as $name => $path) {
                $disk->exists($path) && $zip->addFile($disk->path($path), $name);
            }
        }
        foreach ($withFootage ? $footage : [] as $each) {
            $zip->addFile($each->file()->path, "footage/{$each->sha256}");
            $zip->setCompressionName("footage/{$each->sha256}", \ZipArchive::CM_STORE);
        }
        $job->origin ??= (string) Str::uuid();
        $job->save();
        $zip->addFromString(self::MANIFEST, json_encode([
            'cossel' => self::FORMAT,
            'job' => ['origin' => $job->origin, 'name' => $job->name],
            'people' => $job->people->map(static fn(Person $p): array => ['slug' => $p->slug, 'name' => $p->name])->all(),
            'presets' => $job->presets->map(static fn(Preset $p): array => ['name' => $p->name, 'order' => $p->order])->all(),
            'treatments' => $job->treatments->map(static fn(Treatment $t): array => ['name' => $t->name, 'recipe' => json_decode($t->recipe, true, flags: JSON_THROW_ON_ERROR)])->all(),
            'footage' => $footage->map(static fn(Footage $f): array => ['sha256' => $f->sha256, 'name' => $f->name])->values()->all(),
            'shots' => $documents,
        ], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
        if (!$zip->close()) {
            throw new \RuntimeException("{$file} cannot be written.");
        }
    }

    /** A file of ours that is cleared away should nobody do so. */
    public static function temporary(): string
    {
        Storage::disk('data')->makeDirectory('bundles');

        return tempnam(Storage::disk('data')->path('bundles'), 'b') ?: throw StorageFull::or('The data folder cannot be written to.');
    }

    /** @return array<string, mixed> */
    private static function shot(Shot $shot): array
    {
        $shot->origin ??= (string) Str::uuid();
        $shot->save();
        $recipe = static fn(int $number): array => Revision::where('shot_id', $shot->id)->where('number', $number)->firstOrFail()->document();

        return [
            'origin' => $shot->origin,
            'name' => $shot->name,
            'notes' => $shot->notes,
            'archived' => $shot->archived,
            'span' => [$shot->from, $shot->to],
            'footage' => $shot->footage->sha256 ?? $shot->wants['sha256'] ?? null,
            'cut' => $shot->cut,
            'limits' => (object) $shot->limits,
            'recipe' => $recipe($shot->revision),
            'versions' => $shot->versions->reverse()->map(static fn(Version $v): array => ['name' => $v->name, 'recipe' => $recipe($v->number)])->values()->all(),
            'frameNotes' => $shot->frameNotes->map(static fn(FrameNote $n): array => ['frame' => $n->frame, 'text' => $n->text, 'resolved' => $n->resolved])->all(),
        ];
    }

    /**
     * Of the shots, and what their recipes put in.
     *
     * @param Collection<int, Shot> $shots
     * @param list<string>          $named SHA-256 of all that recipes name
     *
     * @return Collection<int, Footage>
     */
    private static function footage(Collection $shots, array $named): Collection
    {
        $own = $shots->pluck('footage.sha256')->filter()->all();

        return Footage::whereIn('sha256', array_values(array_unique([...$own, ...$named])))->get()->toBase();
    }
}
