<?php

declare(strict_types=1);

namespace App\Bundles;

use App\Cuts\CutPlace;
use App\Deliveries\Format;
use Illuminate\Support\Facades\Validator;

/** What a bundle says of itself, checked. */
final readonly class Manifest
{
    /**
     * @param array<string, string>                $people     names by slug
     * @param array<string, array<string, mixed>>  $presets    orders by name
     * @param array<string, array<string, mixed>>  $treatments documents by name
     * @param array<string, string>                $footage    names by SHA-256
     * @param list<array<string, mixed>>           $shots
     */
    private function __construct(public string $origin, public string $name, public array $people, public array $presets, public array $treatments, public array $footage, public array $shots) {}

    /** @throws BadBundle */
    public static function of(mixed $document): self
    {
        if (!is_array($document) || ($document['cossel'] ?? null) !== BundleWriter::FORMAT) {
            throw BadBundle::because('expected ' . BundleWriter::FORMAT . ', found ' . (is_array($document) ? json_encode($document['cossel'] ?? null, JSON_UNESCAPED_SLASHES) : 'no JSON'), BundleWriter::MANIFEST . ' /cossel');
        }
        $sha256 = ['regex:/^[0-9a-f]{64}\z/'];
        $validator = Validator::make($document, [
            'job' => ['required', 'array'],
            'job.origin' => ['required', 'uuid'],
            'job.name' => ['required', 'string', 'max:120'],
            'people' => ['present', 'array', 'max:10000'],
            'people.*.slug' => ['required', 'string', 'regex:/^[a-z0-9-]{1,64}\z/'],
            'people.*.name' => ['required', 'string', 'max:120'],
            'presets' => ['present', 'array', 'max:1000'],
            'presets.*.name' => ['required', 'string', 'max:80'],
            'presets.*.order' => ['required', 'array'],
            'presets.*.order.format' => ['required', 'string', \Illuminate\Validation\Rule::enum(Format::class)],
            'treatments' => ['present', 'array', 'max:1000'],
            'treatments.*.name' => ['required', 'string', 'max:80'],
            'treatments.*.recipe' => ['required', 'array'],
            'footage' => ['present', 'array', 'max:10000'],
            'footage.*.sha256' => ['required', 'string', ...$sha256],
            'footage.*.name' => ['required', 'string', 'max:200'],
            'shots' => ['present', 'array', 'max:10000'],
            'shots.*.origin' => ['required', 'uuid'],
            'shots.*.name' => ['required', 'string', 'max:120'],
            // Notes of several places may have come together.
            'shots.*.notes' => ['present', 'string', 'max:64000'],
            'shots.*.archived' => ['required', 'boolean'],
            'shots.*.span' => ['required', 'array', 'size:2'],
            'shots.*.span.*' => ['required', 'integer', 'min:0'],
            'shots.*.footage' => ['required', 'string', ...$sha256],
            'shots.*.cut' => ['present', 'nullable', 'array'],
            'shots.*.limits' => ['present', 'array', 'max:100'],
            'shots.*.limits.*' => ['numeric'],
            'shots.*.recipe' => ['required', 'array'],
            'shots.*.versions' => ['present', 'array', 'max:10000'],
            'shots.*.versions.*.name' => ['required', 'string', 'max:120'],
            'shots.*.versions.*.recipe' => ['required', 'array'],
            'shots.*.frameNotes' => ['present', 'array', 'max:10000'],
            'shots.*.frameNotes.*.frame' => ['required', 'integer', 'min:0'],
            'shots.*.frameNotes.*.text' => ['required', 'string', 'max:4000'],
            'shots.*.frameNotes.*.resolved' => ['required', 'boolean'],
        ]);
        if ($validator->fails()) {
            throw BadBundle::because(rtrim(lcfirst((string) $validator->errors()->first()), '.'), BundleWriter::MANIFEST);
        }
        foreach ($document['shots'] as $i => $shot) {
            self::checkCut($shot['cut'], $i);
        }

        return new self(
            $document['job']['origin'],
            $document['job']['name'],
            array_column($document['people'], 'name', 'slug'),
            array_column($document['presets'], 'order', 'name'),
            array_column($document['treatments'], 'recipe', 'name'),
            array_map(basename(...), array_column($document['footage'], 'name', 'sha256')),
            array_values($document['shots']),
        );
    }

    /** @param array<string, mixed>|null $cut */
    private static function checkCut(?array $cut, int|string $i): void
    {
        try {
            $cut === null || CutPlace::of($cut);
        } catch (\Throwable) {
            throw BadBundle::because('its place in the cut cannot be read', BundleWriter::MANIFEST . " /shots/{$i}/cut");
        }
    }
}
