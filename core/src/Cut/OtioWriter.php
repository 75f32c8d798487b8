<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** Writes a cut as OpenTimelineIO's JSON, gaps where nothing lies. */
final class OtioWriter
{
    public static function json(Cut $cut): string
    {
        $flags = JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION;

        return json_encode(self::document($cut), $flags) . "\n";
    }

    /** @return array<string, mixed> */
    public static function document(Cut $cut): array
    {
        $children = [];
        $end = 0;
        foreach ($cut->events as $event) {
            if ($event->at > $end) {
                $gap = self::range($cut, 0, $event->at - $end);
                $children[] = ['OTIO_SCHEMA' => 'Gap.1', 'name' => '', 'source_range' => $gap] + self::item();
            }
            $children[] = self::clip($cut, $event);
            $end = $event->at + $event->length();
        }

        $track = ['OTIO_SCHEMA' => 'Track.1', 'name' => 'V1', 'kind' => 'Video', 'source_range' => null, 'children' => $children];

        return [
            'OTIO_SCHEMA' => 'Timeline.1',
            'name' => $cut->title,
            'metadata' => (object) [],
            'global_start_time' => self::time($cut, $cut->start),
            'tracks' => [
                'OTIO_SCHEMA' => 'Stack.1', 'name' => 'tracks', 'source_range' => null,
                'children' => [$track + self::item()],
            ] + self::item(),
        ];
    }

    /** @return array<string, mixed> */
    private static function clip(Cut $cut, Event $event): array
    {
        $media = $event->file === null
            ? ['OTIO_SCHEMA' => 'MissingReference.1', 'name' => '', 'metadata' => (object) [], 'available_range' => null]
            : [
                'OTIO_SCHEMA' => 'ExternalReference.1', 'name' => '', 'metadata' => (object) [], 'target_url' => $event->file,
                'available_range' => $event->start === null ? null : self::range($cut, $event->start, $event->out - $event->start),
            ];

        return [
            'OTIO_SCHEMA' => 'Clip.2',
            'name' => $event->name,
            'metadata' => $event->reel === null ? (object) [] : ['cossel' => ['reel' => $event->reel]],
            'source_range' => self::range($cut, $event->in, $event->length()),
            'media_references' => ['DEFAULT_MEDIA' => $media],
            'active_media_reference_key' => 'DEFAULT_MEDIA',
        ] + self::item();
    }

    /** @return array<string, mixed> what every item has */
    private static function item(): array
    {
        return ['metadata' => (object) [], 'effects' => [], 'markers' => [], 'enabled' => true];
    }

    /** @return array<string, mixed> */
    private static function range(Cut $cut, int $from, int $length): array
    {
        return ['OTIO_SCHEMA' => 'TimeRange.1', 'start_time' => self::time($cut, $from), 'duration' => self::time($cut, $length)];
    }

    /** @return array<string, mixed> */
    private static function time(Cut $cut, int $frames): array
    {
        return ['OTIO_SCHEMA' => 'RationalTime.1', 'rate' => $cut->rate->fps(), 'value' => (float) $frames];
    }
}
