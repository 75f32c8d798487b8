<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/**
 * Reads OpenTimelineIO's JSON (Academy Software Foundation, schemas Timeline.1, Stack.1, Track.1, Clip.1 and .2, Gap.1, Transition.1,
 * ExternalReference.1, LinearTimeWarp.1, RationalTime.1, TimeRange.1): the clips of the first track with picture.
 */
final class OtioReader
{
    private const MOST = 20_000;

    /** @var list<Event> */
    private array $events = [];
    private int $at = 0;
    /** @var list<string> */
    private array $told = [];

    private function __construct(private readonly Rate $rate) {}

    /**
     * @param mixed $document as json_decode(…, true) gives it
     *
     * @throws InvalidCut
     */
    public static function read(mixed $document): Cut
    {
        if (!is_array($document)) {
            throw InvalidCut::at('', 'expected a timeline in JSON');
        }
        self::schema($document, '', 'Timeline.1');
        $stack = self::object($document, 'tracks', '');
        self::schema($stack, '/tracks', 'Stack.1');
        foreach (self::children($stack, '/tracks') as $i => $track) {
            if (($track['kind'] ?? null) === 'Video' && self::children($track, "/tracks/children/{$i}") !== []) {
                return self::track($document, $track, "/tracks/children/{$i}");
            }
        }
        throw InvalidCut::at('/tracks', 'there is no track with picture in it');
    }

    /**
     * @param array<string, mixed> $document
     * @param array<string, mixed> $track
     */
    private static function track(array $document, array $track, string $pointer): Cut
    {
        self::schema($track, $pointer, 'Track.1');
        $children = self::children($track, $pointer);
        if (count($children) > self::MOST) {
            throw InvalidCut::at("{$pointer}/children", 'more clips than ' . self::MOST);
        }
        $begin = $document['global_start_time'] ?? null;
        $reader = new self(self::rate($children, $pointer, is_array($begin) ? $begin : null));
        foreach ($children as $i => $child) {
            $reader->child($child, "{$pointer}/children/{$i}");
        }
        $start = is_array($begin) ? $reader->frames($begin, '/global_start_time') : 0;

        return new Cut(self::text($document, 'name'), $reader->rate, $reader->events, $start);
    }

    /**
     * That of where it begins, else of the first clip or gap.
     *
     * @param list<array<string, mixed>> $children
     * @param array<string, mixed>|null  $begin
     */
    private static function rate(array $children, string $pointer, ?array $begin): Rate
    {
        foreach ($children as $i => $child) {
            $range = self::range($child);
            if ($range !== null) {
                $at = "{$pointer}/children/{$i}/source_range";

                return Rate::near(self::number(self::object($range, 'duration', $at), 'rate', "{$at}/duration"));
            }
        }

        if ($begin === null) {
            throw InvalidCut::at($pointer, 'nothing tells its rate');
        }

        return Rate::near(self::number($begin, 'rate', '/global_start_time'));
    }

    /** @param array<string, mixed> $child */
    private function child(array $child, string $pointer): void
    {
        $schema = self::text($child, 'OTIO_SCHEMA');
        match (true) {
            str_starts_with($schema, 'Gap.') => $this->at += $this->length($child, $pointer),
            str_starts_with($schema, 'Transition.') => $this->told[] = 'its dissolve is brought in as a cut',
            in_array($schema, ['Clip.1', 'Clip.2'], true) => $this->clip($child, $pointer),
            str_starts_with($schema, 'Stack.') || str_starts_with($schema, 'Track.') => $this->nested($child, $pointer),
            default => throw InvalidCut::at("{$pointer}/OTIO_SCHEMA", "“{$schema}” is not known here"),
        };
    }

    /** @param array<string, mixed> $child */
    private function nested(array $child, string $pointer): void
    {
        $this->at += $this->length($child, $pointer);
        $this->told[] = 'what is nested before it is left out';
    }

    /** @param array<string, mixed> $clip */
    private function clip(array $clip, string $pointer): void
    {
        $media = self::media($clip);
        $available = is_array($media['available_range'] ?? null) ? $media['available_range'] : null;
        $range = self::range($clip) ?? $available ?? throw InvalidCut::at($pointer, 'nothing tells which frames of its media it shows');
        $in = $this->frames(self::object($range, 'start_time', $pointer), "{$pointer}/source_range/start_time");
        $length = $this->frames(self::object($range, 'duration', $pointer), "{$pointer}/source_range/duration");
        $begins = "{$pointer}/media_reference/available_range";
        $start = $available === null ? null : $this->frames(self::object($available, 'start_time', $begins), "{$begins}/start_time");
        foreach (is_array($clip['effects'] ?? null) ? $clip['effects'] : [] as $effect) {
            $kind = is_array($effect) ? self::text($effect, 'OTIO_SCHEMA') : '';
            if (str_contains($kind, 'TimeWarp') || str_starts_with($kind, 'FreezeFrame')) {
                $this->told[] = 'its changed speed is brought in as a plain span';
            }
        }
        $file = is_string($media['target_url'] ?? null) && $media['target_url'] !== '' ? $media['target_url'] : null;
        $metadata = is_array($clip['metadata'] ?? null) ? $clip['metadata'] : [];
        $reel = $metadata['cossel']['reel'] ?? $metadata['cmx_3600']['reel'] ?? null;
        $number = count($this->events) + 1;
        $name = self::text($clip, 'name') ?: "event {$number}";
        $reel = is_string($reel) ? $reel : null;
        $this->events[] = new Event($number, $name, $file, $reel, $in, $in + $length, $this->at, $start, $this->told);
        $this->told = [];
        $this->at += $length;
    }

    /**
     * @param array<string, mixed> $clip
     *
     * @return array<string, mixed> its active media reference; empty where it has none
     */
    private static function media(array $clip): array
    {
        $references = is_array($clip['media_references'] ?? null) ? $clip['media_references'] : [];
        $media = $clip['media_reference'] ?? $references[self::text($clip, 'active_media_reference_key') ?: 'DEFAULT_MEDIA'] ?? [];

        return is_array($media) ? $media : [];
    }

    /**
     * @param array<string, mixed> $item
     *
     * @return array<string, mixed>|null
     */
    private static function range(array $item): ?array
    {
        return is_array($item['source_range'] ?? null) ? $item['source_range'] : null;
    }

    /** @param array<string, mixed> $item */
    private function length(array $item, string $pointer): int
    {
        $range = self::range($item);

        return $range === null ? 0 : max(0, $this->frames(self::object($range, 'duration', $pointer), "{$pointer}/source_range/duration"));
    }

    /**
     * A time in frames of the cut.
     *
     * @param array<string, mixed> $time
     */
    private function frames(array $time, string $pointer): int
    {
        self::schema($time, $pointer, 'RationalTime.1');
        $rate = self::number($time, 'rate', $pointer);
        if ($rate <= 0.0) {
            throw InvalidCut::at("{$pointer}/rate", 'expected a rate over 0');
        }
        $frames = self::number($time, 'value', $pointer) * ($this->rate->is(Rate::near($rate)) ? 1.0 : $this->rate->fps() / $rate);
        if (abs($frames) > 1e9) {
            throw InvalidCut::at("{$pointer}/value", 'this is no number of frames');
        }

        return (int) round($frames);
    }

    /** @param array<string, mixed> $of */
    private static function schema(array $of, string $pointer, string $wanted): void
    {
        $schema = $of['OTIO_SCHEMA'] ?? null;
        if ($schema !== $wanted) {
            $found = is_string($schema) ? "“{$schema}”" : 'nothing';

            throw InvalidCut::at("{$pointer}/OTIO_SCHEMA", "expected {$wanted}, found {$found}");
        }
    }

    /**
     * @param array<string, mixed> $of
     *
     * @return array<string, mixed>
     */
    private static function object(array $of, string $field, string $pointer): array
    {
        $value = $of[$field] ?? null;

        return is_array($value) ? $value : throw InvalidCut::at("{$pointer}/{$field}", 'expected an object');
    }

    /**
     * A text; what is none says nothing.
     *
     * @param array<string, mixed> $of
     */
    private static function text(array $of, string $field): string
    {
        return is_string($of[$field] ?? null) ? $of[$field] : '';
    }

    /** @param array<string, mixed> $of */
    private static function number(array $of, string $field, string $pointer): float
    {
        $value = $of[$field] ?? null;

        return is_int($value) || is_float($value) ? (float) $value : throw InvalidCut::at("{$pointer}/{$field}", 'expected a number');
    }

    /**
     * @param array<string, mixed> $of
     *
     * @return list<array<string, mixed>>
     */
    private static function children(array $of, string $pointer): array
    {
        $children = $of['children'] ?? null;
        if (!is_array($children) || !array_is_list($children) || array_filter($children, is_array(...)) !== $children) {
            throw InvalidCut::at("{$pointer}/children", 'expected a list');
        }

        return $children;
    }
}
