<?php

declare(strict_types=1);

namespace App\Bundles;

use App\Carrying\KeptTreatments;
use App\Database\ShortTransactions;
use App\Deliveries\DiskSpace;
use App\Footage\Intake;
use App\Footage\RefusedFootage;
use App\Footage\StorageFull;
use App\Footage\UnreadableFootage;
use App\Json;
use App\Models\Footage;
use App\Models\FrameNote;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\AssetFiles;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use App\Work\PrepareFrames;
use Cossel\Core\Colour\InvalidCube;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\UnknownId;
use Cossel\Core\Touch\MissingAsset;
use Illuminate\Support\Arr;
use Illuminate\Support\Facades\DB;

/**
 * Takes a bundle in: all of it is checked before any job or shot is made or changed. A job or shot that is known by its origin is
 * brought up to the bundle, as one step of its history; what is the same already stays as it is, and what was written here meanwhile
 * stays beside what comes.
 */
final class BundleReader
{
    /** @var array<string, string> SHA-256 of footage as the bundle names it => as it is here */
    private array $renamed = [];
    /** Bytes that it may still unpack to. */
    private int $left = 0;

    public function __construct(
        private readonly Intake $intake,
        private readonly Recipes $recipes,
        private readonly RecipeReader $reader,
        private readonly RecipeWriter $writer,
        private readonly Tracks $tracks,
        private readonly AssetFiles $assets,
        private readonly KeptTreatments $treatments,
    ) {}

    /** Whether a file is meant as a bundle: by its name, or by what is in it. */
    public static function is(string $file): bool
    {
        $zip = new \ZipArchive();

        return str_ends_with($file, '.bundle.zip')
            || (is_file($file) && $zip->open($file, \ZipArchive::RDONLY) === true && $zip->locateName(BundleWriter::MANIFEST) !== false);
    }

    /**
     * @return array{Job, list<string>} the job, and what was done, in sentences
     *
     * @throws BadBundle
     * @throws StorageFull before anything is unpacked
     */
    public function read(string $file): array
    {
        $zip = new \ZipArchive();
        if ($zip->open($file, \ZipArchive::RDONLY) !== true) {
            throw BadBundle::because('it is no zip archive, or damaged');
        }
        try {
            $this->renamed = [];
            $this->left = (int) config('limits.footage.unpacked_bytes');
            $manifest = Manifest::of($this->document($this->entry($zip, BundleWriter::MANIFEST, (int) config('limits.bundle.manifest_bytes')), BundleWriter::MANIFEST));
            $sizes = array_map(static fn(int $i): int => $zip->statIndex($i)['size'] ?? 0, range(0, $zip->numFiles - 1));
            DiskSpace::check(min($this->left, array_sum($sizes)), 'have the bundle written without footage');
            $this->takeFiles($zip, $manifest);
            $shots = [];
            foreach ($manifest->shots as $i => $shot) {
                $shots[$i] = $this->checked($shot, $i);
            }
            $job = DB::transaction(fn(): Job => $this->job($manifest));
            // From here on nothing is refused any more; broken off, the same bundle brings the rest.
            $told = [];
            ShortTransactions::each(array_keys($shots), function (int $i) use ($job, $shots, $manifest, &$told): void {
                $told[] = $this->shot($job, $shots[$i], $i, $manifest);
            }, static fn() => null);

            return [$job, array_values(array_filter($told)) ?: ['Everything of it was here already.']];
        } catch (InvalidRecipe|UnknownId|MissingAsset|RefusedFootage $reason) {
            throw BadBundle::because(rtrim(lcfirst($reason->getMessage()), '.'));
        } finally {
            $zip->close();
        }
    }

    /** Tracks, tables and footage, by their content; whatever names they go under in the archive. */
    private function takeFiles(\ZipArchive $zip, Manifest $manifest): void
    {
        for ($i = 0; $i < $zip->numFiles; ++$i) {
            $name = (string) $zip->getNameIndex($i);
            if (preg_match('~^(tracks|assets|footage)/([0-9a-f]{64})(\.json|\.cube)?\z~', $name, $m) !== 1) {
                $name === BundleWriter::MANIFEST || throw BadBundle::because('this does not belong in a bundle', $name);
                continue;
            }
            [, $kind, $sha256] = $m;
            if ($kind === 'footage') {
                $this->footage($zip, $name, $sha256, $manifest);
                continue;
            }
            $text = $this->entry($zip, $name, $kind === 'tracks' ? (int) config('limits.bundle.track_bytes') : (int) config('limits.texts.cube_bytes'));
            if (hash('sha256', $text) !== $sha256) {
                throw BadBundle::because('its content is not what its name says', $name);
            }
            try {
                $kind === 'tracks' ? $this->tracks->keep(Track::read($this->document($text, $name))) : $this->assets->keepCube($text);
            } catch (InvalidRecipe|InvalidCube $reason) {
                throw BadBundle::because(rtrim($reason->getMessage(), '.'), $name);
            }
        }
    }

    private function footage(\ZipArchive $zip, string $name, string $sha256, Manifest $manifest): void
    {
        if (Footage::where('sha256', $sha256)->exists()) {
            return;
        }
        $work = BundleWriter::temporary();
        try {
            $from = @$zip->getStream($name);
            $to = fopen($work, 'w');
            $most = min($this->left, (int) config('limits.footage.upload_bytes'));
            error_clear_last();
            $bytes = $from === false || $to === false ? false : @stream_copy_to_stream($from, $to, $most + 1);
            if ($bytes === false || $bytes > $most || error_get_last() !== null) {
                throw BadBundle::because('it cannot be unpacked, or is too large', $name);
            }
            $this->left -= $bytes;
            $footage = $this->intake->take($work, $manifest->footage[$sha256] ?? "{$sha256}.mkv", false);
            // A sequence is known by its archive elsewhere; here by what became of it.
            $this->renamed[$sha256] = $footage->sha256;
        } catch (UnreadableFootage|RefusedFootage $reason) {
            throw BadBundle::because(rtrim($reason->getMessage(), '.'), $name);
        } finally {
            @unlink($work);
        }
    }

    /**
     * @param array<string, mixed> $shot
     *
     * @return array<string, mixed> with its recipes as they are written here
     */
    private function checked(array $shot, int $i): array
    {
        $sha256 = $this->renamed[$shot['footage']] ?? $shot['footage'];
        $footage = Footage::where('sha256', $sha256)->first();
        $footage === null || Intake::span($footage, $shot['span']);
        $json = function (array $document) use ($sha256, $i): string {
            try {
                $recipe = $this->reader->read($this->here($document));
            } catch (InvalidRecipe $reason) {
                throw BadBundle::because(rtrim($reason->getMessage(), '.'), "shot {$i}");
            }
            if ($recipe->source->sha256 !== $sha256) {
                throw BadBundle::because('its recipe is for other footage', "shot {$i}");
            }
            foreach ($recipe->tracks() as $track) {
                $this->tracks->has($track) || throw BadBundle::because("the track {$track} is not in it", "shot {$i}");
            }
            foreach ($recipe->assets as $name => $asset) {
                $this->assets->has($asset['sha256'], $asset['kind']) || throw BadBundle::because("the file “{$name}” is not in it", "shot {$i}");
            }

            return $this->writer->json($recipe);
        };

        return [...$shot, 'recipe' => $json($shot['recipe']), 'versions' => array_map(static fn(array $version): array => [...$version, 'recipe' => $json($version['recipe'])], $shot['versions'])];
    }

    private function job(Manifest $manifest): Job
    {
        $job = Job::firstOrCreate(['origin' => $manifest->origin], ['name' => $manifest->name]);
        // Names that read like numbers are numbers as keys.
        foreach ($manifest->people as $slug => $name) {
            $job->people()->firstOrCreate(['slug' => (string) $slug], ['name' => $name]);
        }
        $presets = $job->presets()->pluck('order', 'name')->all();
        foreach ($manifest->presets as $name => $order) {
            $as = self::freeName($presets, (string) $name, $order);
            if ($as !== null) {
                $presets[$as] = $job->presets()->create(['name' => $as, 'order' => $order])->order;
            }
        }
        $kept = $job->treatments()->pluck('recipe', 'name')->map(static fn(string $json): mixed => json_decode($json, true))->all();
        foreach ($manifest->treatments as $name => $document) {
            $as = self::freeName($kept, (string) $name, $document);
            if ($as !== null) {
                $this->treatments->take($job, $as, $document);
                $kept[$as] = $document;
            }
        }

        return $job;
    }

    /**
     * @param array<string, mixed> $told
     *
     * @return string|null what was done; null for nothing
     */
    private function shot(Job $job, array $told, int $position, Manifest $manifest): ?string
    {
        $known = $job->shots()->where('origin', $told['origin'])->first();
        $plain = ['name' => $told['name'], 'archived' => $told['archived'], 'cut' => $told['cut'], 'limits' => $told['limits']];
        $shot = $known ?? $job->shots()->make(['origin' => $told['origin'], 'state' => ShotState::Missing, 'position' => $position]);
        $called = $shot->name;
        $shot->fill([...$plain, 'notes' => self::together($told['notes'], $shot->notes ?? '')])->save();
        $changed = $known === null || $shot->wasChanged();
        $sha256 = $this->renamed[$told['footage']] ?? $told['footage'];
        if ($shot->state === ShotState::Missing) {
            $footage = Footage::where('sha256', $sha256)->first();
            if ($footage === null) {
                $name = $manifest->footage[$told['footage']] ?? 'its footage';
                $shot->update(['wants' => ['name' => $name, 'sha256' => $sha256, 'span' => $told['span']], 'error' => "Its footage is not here: bring in {$name}.", 'from' => $told['span'][0], 'to' => $told['span'][1]]);
            } else {
                $this->intake->fill($shot, $footage, $told['span']);
                $shot->update(['wants' => null]);
                PrepareFrames::dispatch($shot->id);
            }
        }
        foreach ($told['versions'] as $version) {
            if (!$shot->versions()->where('name', $version['name'])->exists()) {
                $number = $this->step($shot, $version['recipe'], "Version “{$version['name']}” from a bundle") ?? $shot->revision;
                $shot->versions()->create(['name' => $version['name'], 'number' => $number]);
                $changed = true;
            }
        }
        $changed = $this->notes($shot, $told['frameNotes']) || $changed;
        $changed = $this->step($shot, $told['recipe'], 'From a bundle') !== null || $changed;

        return match (true) {
            !$changed => null,
            $known === null => "{$shot->name} came in" . ($shot->state === ShotState::Missing ? "; it asks for {$shot->wants['name']}." : '.'),
            default => "{$shot->name} was brought up to the bundle" . ($called === $shot->name ? '.' : "; it was called {$called} here."),
        };
    }

    /**
     * Adds the notes on frames that the shot has not.
     *
     * @param list<array{frame: int, text: string, resolved: bool}> $notes
     *
     * @return bool whether there were any
     */
    private function notes(Shot $shot, array $notes): bool
    {
        $known = $shot->frameNotes()->toBase()->get(['frame', 'text'])->mapWithKeys(static fn(object $row): array => ["{$row->frame} {$row->text}" => true])->all();
        $new = [];
        foreach ($notes as $note) {
            $key = "{$note['frame']} {$note['text']}";
            if (!isset($known[$key])) {
                $known[$key] = true;
                $new[] = ['shot_id' => $shot->id, ...Arr::only($note, ['frame', 'text', 'resolved']), 'created_at' => now(), 'updated_at' => now()];
            }
        }
        foreach (array_chunk($new, 1000) as $rows) {
            FrameNote::insert($rows);
        }

        return $new !== [];
    }

    /** Notes with what is written here and not there below. */
    private static function together(string $there, string $here): string
    {
        return implode("\n", array_filter([$there, ...array_diff(explode("\n", $here), explode("\n", $there))], static fn(string $line): bool => $line !== ''));
    }

    /**
     * What was kept here under a name is not written over.
     *
     * @param array<string, mixed> $kept by name
     *
     * @return string|null the name, or that with a number, that is free; null where the same is kept already
     */
    private static function freeName(array $kept, string $name, mixed $new): ?string
    {
        for ($as = $name, $n = 2; isset($kept[$as]); $as = mb_substr($name, 0, 74) . " ({$n})", ++$n) {
            if ($kept[$as] == $new) {
                return null;
            }
        }

        return $as;
    }

    /**
     * Makes a recipe the shot's present one, unless it is so already.
     *
     * @param string $json as the writer writes it
     *
     * @return int|null number of the new revision
     */
    private function step(Shot $shot, string $json, string $label): ?int
    {
        $shot->refresh();
        if ($shot->revision > 0 && $this->recipes->present($shot)->recipe === $json) {
            return null;
        }

        return $this->recipes->putIn($shot, $json, $label)->number;
    }

    /**
     * A recipe with footage by the names it has here.
     *
     * @param array<string, mixed> $document
     */
    private function here(array $document): mixed
    {
        return $this->renamed === [] ? $document : json_decode(strtr(json_encode($document, JSON_THROW_ON_ERROR), $this->renamed), true);
    }

    private function document(string $text, string $name): mixed
    {
        try {
            return Json::read($text);
        } catch (\JsonException $reason) {
            throw BadBundle::because($reason->getMessage(), $name);
        }
    }

    /** What an archive says of its sizes is not to be trusted. */
    private function entry(\ZipArchive $zip, string $name, int $most): string
    {
        $stream = @$zip->getStream($name);
        if ($stream === false) {
            throw BadBundle::because("there is no {$name} in it");
        }
        $most = min($most, $this->left);
        error_clear_last();
        $text = @stream_get_contents($stream, $most + 1);
        // It is read as far as it goes; that it is torn is only warned of.
        if ($text === false || error_get_last() !== null) {
            throw BadBundle::because('it is damaged', $name);
        }
        if (strlen($text) > $most) {
            throw BadBundle::because('it is too large', $name);
        }

        $this->left -= strlen($text);

        return $text;
    }
}
