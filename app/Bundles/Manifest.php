<?php

declare(strict_types=1);

namespace App\Bundles;

use App\Cuts\CutPlace;
use App\Http\Requests\LimitRequest;
use App\Http\Requests\PresetRequest;
use Illuminate\Support\Facades\Validator;

/** What a bundle says of itself, checked. */
final readonly class Manifest
{
    private const SHA256 = '/\A[0-9a-f]{64}\z/';
    /** Letters of a name out of a cut, and frames of a timecode, at the most. */
    private const WORDS = 1000;
    private const FRAMES = 1_000_000_000;

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
        self::checkJob($document);
        self::list($document, 'shots', (int) config('limits.bundle.shots'));
        foreach ($document['shots'] as $i => $shot) {
            self::checkShot($shot, "shots/{$i}");
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

    /** @param array<string, mixed> $document */
    private static function checkJob(array $document): void
    {
        $most = config('limits.bundle.named');
        self::check($document, 'job', ['job' => ['required', 'array'], 'job.origin' => ['required', 'uuid'], 'job.name' => ['required', 'string', 'max:120']]);
        foreach (self::list($document, 'people', (int) config('limits.bundle.shots')) as $i => $person) {
            self::text($person, 'slug', "people/{$i}", 64, '/\A[a-z0-9-]+\z/');
            self::text($person, 'name', "people/{$i}", 120);
        }
        foreach (self::list($document, 'presets', $most) as $i => $preset) {
            self::text($preset, 'name', "presets/{$i}", 80);
            self::check(is_array($preset['order'] ?? null) ? $preset['order'] : [], "presets/{$i}/order", PresetRequest::ofOrder());
        }
        foreach (self::list($document, 'treatments', $most) as $i => $treatment) {
            self::text($treatment, 'name', "treatments/{$i}", 80);
            self::need(is_array($treatment['recipe'] ?? null), "treatments/{$i}/recipe", 'a recipe');
        }
        foreach (self::list($document, 'footage', (int) config('limits.bundle.shots')) as $i => $footage) {
            self::text($footage, 'sha256', "footage/{$i}", 64, self::SHA256);
            self::text($footage, 'name', "footage/{$i}", 200);
        }
    }

    private static function checkShot(mixed $shot, string $at): void
    {
        self::need(is_array($shot), $at, 'a shot');
        self::text($shot, 'origin', $at, 36, '/\A[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}\z/i');
        self::text($shot, 'name', $at, 120);
        // Notes of several places may have come together.
        self::need(is_string($shot['notes'] ?? null) && mb_strlen($shot['notes']) <= 64_000, "{$at}/notes", 'a text of at most 64000 letters');
        self::need(is_bool($shot['archived'] ?? null), "{$at}/archived", 'true or false');
        $span = $shot['span'] ?? null;
        $last = (int) config('limits.footage.frames') - 1;
        self::need(is_array($span) && array_keys($span) === [0, 1] && is_int($span[0]) && is_int($span[1]) && 0 <= $span[0] && $span[0] <= $span[1] && $span[1] <= $last, "{$at}/span", "a first and a last frame, at most {$last}");
        self::text($shot, 'footage', $at, 64, self::SHA256);
        self::checkCut($shot['cut'] ?? null, "{$at}/cut");
        self::need(is_array($shot['limits'] ?? null), "{$at}/limits", 'limits by tell-tale');
        foreach ($shot['limits'] as $telltale => $limit) {
            $most = LimitRequest::most()[$telltale] ?? null;
            self::need($most !== null && (is_int($limit) || is_float($limit)) && $limit >= 0 && $limit <= $most, "{$at}/limits/{$telltale}", $most === null ? 'the name of a tell-tale' : "a limit of 0 to {$most}");
        }
        self::need(is_array($shot['recipe'] ?? null), "{$at}/recipe", 'a recipe');
        foreach (self::list($shot, 'versions', (int) config('limits.bundle.versions'), $at) as $i => $version) {
            self::text($version, 'name', "{$at}/versions/{$i}", 60);
            self::need(is_array($version['recipe'] ?? null), "{$at}/versions/{$i}/recipe", 'a recipe');
        }
        foreach (self::list($shot, 'frameNotes', (int) config('limits.bundle.notes'), $at) as $i => $note) {
            self::text($note, 'text', "{$at}/frameNotes/{$i}", 4000);
            self::need(is_int($note['frame'] ?? null) && $note['frame'] >= $span[0] && $note['frame'] <= $span[1], "{$at}/frameNotes/{$i}/frame", "a frame of the shot, {$span[0]} to {$span[1]}");
            self::need(is_bool($note['resolved'] ?? null), "{$at}/frameNotes/{$i}/resolved", 'true or false');
        }
    }

    private static function checkCut(mixed $cut, string $at): void
    {
        if ($cut === null) {
            return;
        }
        $number = static fn(string $name, int $least, int $most, bool $may = false): bool => is_array($cut) && (($may && ($cut[$name] ?? null) === null) || (is_int($cut[$name] ?? null) && $cut[$name] >= $least && $cut[$name] <= $most));
        $words = static fn(string $name, bool $may = true): bool => is_array($cut) && (($may && ($cut[$name] ?? null) === null) || (is_string($cut[$name] ?? null) && mb_strlen($cut[$name]) <= self::WORDS));
        $isGood = $number('number', 1, 1_000_000) && $number('in', -self::FRAMES, self::FRAMES) && $number('out', -self::FRAMES, self::FRAMES) && $number('at', 0, self::FRAMES)
            && $number('start', -self::FRAMES, self::FRAMES, true) && $number('handles', 0, 1000) && $words('name', false) && $words('file') && $words('reel') && $cut['out'] > $cut['in']
            && is_bool($cut['retired'] ?? null) && is_array($cut['told'] ?? null) && count($cut['told']) <= 100 && array_filter($cut['told'], is_string(...)) === $cut['told'] && is_string($cut['rate'] ?? null);
        try {
            $isGood && array_diff_key($cut, CutPlace::of($cut)->document()) === [] || throw new \DomainException();
        } catch (\Throwable) {
            throw BadBundle::because('its place in the cut cannot be read', BundleWriter::MANIFEST . " /{$at}");
        }
    }

    /**
     * @param array<string, mixed> $holder
     *
     * @return array<int, array<string, mixed>>
     */
    private static function list(array $holder, string $name, int $most, string $at = ''): array
    {
        $list = $holder[$name] ?? null;
        self::need(is_array($list) && array_is_list($list) && count($list) <= $most && array_filter($list, is_array(...)) === $list, ltrim("{$at}/{$name}", '/'), "a list of at most {$most}");

        return $list;
    }

    private static function text(mixed $holder, string $name, string $at, int $most, string $form = '/\S/u'): void
    {
        $text = $holder[$name] ?? null;
        self::need(is_string($text) && mb_strlen($text) <= $most && preg_match($form, $text) === 1, "{$at}/{$name}", $form === '/\S/u' ? "a text of at most {$most} letters" : 'another form');
    }

    /**
     * By the rules that requests are held to.
     *
     * @param array<string, mixed> $values
     * @param array<string, mixed> $rules
     */
    private static function check(array $values, string $at, array $rules): void
    {
        $validator = Validator::make($values, $rules);
        if ($validator->fails()) {
            throw BadBundle::because(rtrim(lcfirst((string) $validator->errors()->first()), '.'), BundleWriter::MANIFEST . " /{$at}");
        }
    }

    private static function need(bool $is, string $at, string $expected): void
    {
        $is || throw BadBundle::because("expected {$expected}", BundleWriter::MANIFEST . " /{$at}");
    }
}
