<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Cut;

use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\EdlReader;
use Cossel\Core\Cut\EdlWriter;
use Cossel\Core\Cut\Event;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\OtioReader;
use Cossel\Core\Cut\OtioWriter;
use Cossel\Core\Cut\Rate;
use Cossel\Core\Cut\Timecode;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Cuts read from and written in open forms. */
final class CutTest extends TestCase
{
    private const EDL = <<<'EDL'
        TITLE: The Verrin Glasshouse reel 2
        FCM: NON-DROP FRAME

        001  A003C007 V     C        10:00:05:00 10:00:08:12 01:00:00:00 01:00:03:12
        * FROM CLIP NAME: gh010_backlit
        * SOURCE FILE: /media/gh/A003C007.mov
        002  A003C007 A     C        10:00:05:00 10:00:08:12 01:00:00:00 01:00:03:12
        002  A003C009 V     C        10:02:00:00 10:02:00:00 01:00:03:12 01:00:03:12
        002  A003C011 V     D    024 10:04:00:00 10:04:02:00 01:00:03:12 01:00:05:12
        * FROM CLIP NAME: gh020_laugh
        * TO CLIP NAME: gh030_gaze
        003  BL       V     C        00:00:00:00 00:00:01:00 01:00:05:12 01:00:06:12
        004  AX       V     C        00:00:10:00 00:00:12:00 01:00:06:12 01:00:07:12
        M2   AX       048.0                00:00:10:00
        * FROM CLIP NAME: gh040_skin
        GRADE VERSION: 3
        >>> SOURCE 00:00:10:00
        EDL;

    public function test_an_edit_decision_list_becomes_events(): void
    {
        $cut = EdlReader::read(self::EDL, Rate::parse('24/1'));
        self::assertSame(['The Verrin Glasshouse reel 2', 86400, false], [$cut->title, $cut->start, $cut->drop]);
        $hour = 3600 * 24;
        $told = static fn(Event $e): array => [$e->name, $e->file, $e->reel, $e->in, $e->out, $e->at, $e->told];
        self::assertSame([
            ['gh010_backlit', '/media/gh/A003C007.mov', 'A003C007', 10 * $hour + 120, 10 * $hour + 204, 0, []],
            ['gh030_gaze', null, 'A003C011', 10 * $hour + 4 * 1440, 10 * $hour + 4 * 1440 + 48, 84, ['its dissolve of 24 frames is brought in as a cut']],
            ['gh040_skin', null, null, 240, 264, 156, ['its speed of 48 frames a second is brought in as a plain span']],
        ], array_map($told, $cut->events));
        self::assertSame(['A003C007.mov', 'A003C011', 'gh040_skin'], array_map(static fn(Event $e): string => $e->media(), $cut->events));
    }

    /** Lists tell the file of a clip in a remark of its own, by the name of the clip, or by the reel. */
    public function test_media_goes_by_the_file_or_else_by_reel_and_name(): void
    {
        $event = static fn(string $name, ?string $file, ?string $reel): Event => new Event(1, $name, $file, $reel, 0, 24, 0);
        self::assertSame(['a.mov'], $event('b.mov', '/media/a.mov', 'R1')->names());
        self::assertSame(['b.mov', 'R1'], $event('b.mov', null, 'R1')->names());
        self::assertSame(['R1', 'sc. 12'], $event('sc. 12', null, 'R1')->names());
        self::assertSame(['scene'], $event('scene', null, null)->names());
        self::assertSame(['b', 'sc. 12', 'gh010.v2', '.mov'], array_map(static fn(string $name): string => $event($name, null, null)->title(), ['b.MOV', 'sc. 12', 'gh010.v2', '.mov']));
    }

    public function test_names_in_latin_letters_of_one_byte_are_read(): void
    {
        $text = "001  R V C 00:00:01:00 00:00:02:00 01:00:00:00 01:00:01:00\n* FROM CLIP NAME: caf\xE9\n";
        self::assertSame('café', EdlReader::read($text, Rate::parse('24/1'))->events[0]->name);
    }

    /** @return iterable<string, array{string, int, int, string}> timecode, base, count and how it is written */
    public static function codes(): iterable
    {
        yield '24' => ['01:00:00:00', 24, 86400, '01:00:00:00'];
        yield '25' => ['00:00:59:24', 25, 1499, '00:00:59:24'];
        // SMPTE ST 12-1: numbers 00 and 01 are left out at each minute but every tenth.
        yield 'drop before a minute' => ['00:00:59;29', 30, 1799, '00:00:59;29'];
        yield 'drop after a minute' => ['00:01:00;02', 30, 1800, '00:01:00;02'];
        yield 'drop at ten minutes' => ['00:10:00;00', 30, 17982, '00:10:00;00'];
        yield 'drop at an hour' => ['01:00:00;00', 30, 107892, '01:00:00;00'];
        yield 'non-drop at an hour' => ['01:00:00:00', 30, 108000, '01:00:00:00'];
        yield 'drop at 59.94' => ['00:01:00;04', 60, 3600, '00:01:00;04'];
        yield 'no drop at 24' => ['00:01:00;02', 24, 1442, '00:01:00:02'];
    }

    #[DataProvider('codes')]
    public function test_timecode_counts_frames(string $text, int $base, int $count, string $written): void
    {
        $code = Timecode::parse($text, $base);
        self::assertSame([$count, $written], [$code->count, $code->text()]);
    }

    public function test_every_dropped_number_is_passed_over(): void
    {
        $seen = '';
        for ($count = 0; $count < 40000; $count += 7) {
            $code = Timecode::at($count, 30, true);
            self::assertSame($count, Timecode::parse($code->text(), 30)->count);
            self::assertGreaterThan($seen, $code->text());
            $seen = $code->text();
        }
        self::assertSame('00:01:00;02', Timecode::at(1799, 30, true)->plus(1)->text());
    }

    public function test_rates_are_the_ones_that_are_meant(): void
    {
        $text = static fn(float $fps): string => Rate::near($fps)->text();
        self::assertSame(
            ['24000/1001', '24000/1001', '24/1', '25/1', '30000/1001', '60000/1001', '48000/1001', '12500/1000'],
            array_map($text, [23.976, 23.98, 24.0, 25.0, 29.97, 59.94, 47.952, 12.5]),
        );
        self::assertSame([24, 30, true], [Rate::near(23.976)->base(), Rate::near(29.97)->base(), Rate::near(24.0)->is(Rate::parse('48/2'))]);
    }

    /** @return iterable<string, array{string, bool}> */
    public static function rates(): iterable
    {
        yield '23.976' => ['24000/1001', false];
        yield '24' => ['24/1', false];
        yield '25' => ['25/1', false];
        yield '29.97 drop' => ['30000/1001', true];
        yield '29.97 non-drop' => ['30000/1001', false];
    }

    #[DataProvider('rates')]
    public function test_what_is_written_is_read_alike(string $rate, bool $drop): void
    {
        $events = [
            new Event(1, 'gh010 “backlit”', 'file:///media/gh%20010.mov', 'A003', 35950, 36034, 0, 35900),
            new Event(2, 'gh020', null, 'B001', 100, 148, 84),
            // After a gap.
            new Event(3, 'gh030', '/media/gh030.mov', null, 0, 24, 180, 0),
        ];
        $cut = new Cut('Glasshouse', Rate::parse($rate), $events, 107892, $drop);
        $read = OtioReader::read(json_decode(OtioWriter::json($cut), true));
        self::assertEquals(new Cut('Glasshouse', Rate::parse($rate), $events, 107892), $read);
        $edl = EdlReader::read(EdlWriter::write($cut), Rate::parse($rate));
        self::assertSame(
            array_map(static fn(Event $e): array => [$e->name, $e->file, $e->reel, $e->in, $e->out, $e->at], $events),
            array_map(static fn(Event $e): array => [$e->name, $e->file, $e->reel, $e->in, $e->out, $e->at], $edl->events),
        );
        self::assertSame([107892, $drop, 'Glasshouse'], [$edl->start, $edl->drop, $edl->title]);
    }

    /** As the published examples of the format have it: Clip.1 with one reference, and Clip.2 with several. */
    public function test_a_timeline_as_others_write_it(): void
    {
        $time = static fn(float $value, float $rate = 24.0): array => ['OTIO_SCHEMA' => 'RationalTime.1', 'rate' => $rate, 'value' => $value];
        $range = static fn(float $from, float $length, float $rate = 24.0): array => ['OTIO_SCHEMA' => 'TimeRange.1', 'start_time' => $time($from, $rate), 'duration' => $time($length, $rate)];
        $media = static fn(string $url, ?array $available): array => ['OTIO_SCHEMA' => 'ExternalReference.1', 'target_url' => $url, 'available_range' => $available];
        $children = [
            ['OTIO_SCHEMA' => 'Clip.1', 'name' => 'one', 'source_range' => $range(10, 24), 'media_reference' => $media('one.mov', $range(0, 100)), 'effects' => [['OTIO_SCHEMA' => 'LinearTimeWarp.1', 'time_scalar' => 2.0]]],
            ['OTIO_SCHEMA' => 'Transition.1', 'transition_type' => 'SMPTE_Dissolve', 'in_offset' => $time(6), 'out_offset' => $time(6)],
            ['OTIO_SCHEMA' => 'Clip.2', 'name' => 'two', 'source_range' => null, 'media_references' => ['DEFAULT_MEDIA' => $media('file:///m/two%20b.mov', $range(48, 12, 48.0))], 'active_media_reference_key' => 'DEFAULT_MEDIA'],
            ['OTIO_SCHEMA' => 'Gap.1', 'source_range' => $range(0, 6)],
            ['OTIO_SCHEMA' => 'Clip.1', 'name' => '', 'source_range' => $range(5, 5), 'media_reference' => ['OTIO_SCHEMA' => 'MissingReference.1']],
        ];
        $sound = ['OTIO_SCHEMA' => 'Track.1', 'kind' => 'Audio', 'children' => []];
        $document = ['OTIO_SCHEMA' => 'Timeline.1', 'name' => 'T', 'global_start_time' => null, 'tracks' => ['OTIO_SCHEMA' => 'Stack.1', 'children' => [$sound, ['OTIO_SCHEMA' => 'Track.1', 'kind' => 'Video', 'children' => $children]]]];
        $events = OtioReader::read($document)->events;
        $told = static fn(Event $e): array => [$e->name, $e->in, $e->out, $e->at, $e->start, $e->told];
        self::assertSame([
            ['one', 10, 34, 0, 0, ['its changed speed is brought in as a plain span']],
            ['two', 24, 30, 24, 24, ['its dissolve is brought in as a cut']],
            ['event 3', 5, 10, 36, null, []],
        ], array_map($told, $events));
        self::assertSame('two b.mov', $events[1]->media());
    }

    /** @return iterable<string, array{string, string}> what is read, what is said */
    public static function broken(): iterable
    {
        $event = '001  R V C 00:00:01:00 00:00:02:00 01:00:00:00 01:00:01:00';
        yield 'no events' => ["TITLE: x\n", 'The file: there is no event with picture in it.'];
        yield 'a word in the middle' => ["{$event}\nhello there", 'Line 2: expected an event, a comment or a title, found “hello there”.'];
        yield 'too few timecodes' => ["\n001  R V C 00:00:01:00 00:00:02:00", 'Line 2: an event has a number, a reel, a track, a transition and four timecodes.'];
        yield 'no such frame' => [str_replace('00:00:01:00 00', '00:00:01:24 00', $event), 'Line 1: “00:00:01:24” is no timecode of 24 frames a second.'];
        yield 'backwards' => [str_replace('01:00:00:00 01:00:01:00', '01:00:01:00 01:00:00:00', $event), 'Event 1 (R): it ends before it begins.'];
        yield 'no length in the footage' => [str_replace('00:00:02:00', '00:00:01:00', $event), 'Event 1 (R): it has no length.'];
        yield 'over each other' => ["{$event}\n002  R V C 00:00:01:00 00:00:02:00 01:00:00:12 01:00:01:12", 'Event 2 (R): it begins before the one before it ends.'];
    }

    #[DataProvider('broken')]
    public function test_a_broken_list_is_told_with_its_place(string $text, string $said): void
    {
        $this->expectException(InvalidCut::class);
        $this->expectExceptionMessage($said);
        EdlReader::read($text, Rate::parse('24/1'));
    }

    /** @return iterable<string, array{mixed, string}> */
    public static function brokenTimelines(): iterable
    {
        $stack = ['OTIO_SCHEMA' => 'Stack.1', 'children' => []];
        $track = static fn(mixed ...$children): array => ['OTIO_SCHEMA' => 'Timeline.1', 'tracks' => ['OTIO_SCHEMA' => 'Stack.1', 'children' => [['OTIO_SCHEMA' => 'Track.1', 'kind' => 'Video', 'children' => $children]]]];
        $range = ['OTIO_SCHEMA' => 'TimeRange.1', 'start_time' => ['OTIO_SCHEMA' => 'RationalTime.1', 'rate' => 24, 'value' => 0], 'duration' => ['OTIO_SCHEMA' => 'RationalTime.1', 'rate' => 24, 'value' => -3]];
        yield 'nothing' => [null, 'The file: expected a timeline in JSON.'];
        yield 'another version' => [['OTIO_SCHEMA' => 'Timeline.9'], '/OTIO_SCHEMA: expected Timeline.1, found “Timeline.9”.'];
        yield 'no picture' => [['OTIO_SCHEMA' => 'Timeline.1', 'tracks' => $stack], '/tracks: there is no track with picture in it.'];
        yield 'an item of an unknown sort' => [$track(['OTIO_SCHEMA' => 'Clip.2', 'source_range' => [...$range, 'duration' => [...$range['duration'], 'value' => 3]]], ['OTIO_SCHEMA' => 'Whatever.1']), '/tracks/children/0/children/1/OTIO_SCHEMA: “Whatever.1” is not known here.'];
        yield 'a negative length' => [$track(['OTIO_SCHEMA' => 'Clip.2', 'name' => 'x', 'source_range' => $range]), 'Event 1 (x): it ends before it begins.'];
        yield 'a rate of nothing' => [$track(['OTIO_SCHEMA' => 'Clip.2', 'source_range' => [...$range, 'start_time' => [...$range['start_time'], 'rate' => 0]]]), '/source_range/start_time/rate: expected a rate over 0.'];
        yield 'a list of words' => [['OTIO_SCHEMA' => 'Timeline.1', 'tracks' => ['OTIO_SCHEMA' => 'Stack.1', 'children' => ['x']]], '/tracks/children: expected a list.'];
    }

    #[DataProvider('brokenTimelines')]
    public function test_a_broken_timeline_is_told_with_its_place(mixed $document, string $said): void
    {
        $this->expectException(InvalidCut::class);
        $this->expectExceptionMessage($said);
        OtioReader::read($document);
    }

    /** Names that are lists, objects or numbers say nothing; wherever they stand, nothing breaks over them. */
    public function test_names_that_are_none_say_nothing(): void
    {
        $range = ['OTIO_SCHEMA' => 'TimeRange.1', 'start_time' => ['OTIO_SCHEMA' => 'RationalTime.1', 'rate' => 24, 'value' => 0], 'duration' => ['OTIO_SCHEMA' => 'RationalTime.1', 'rate' => 24, 'value' => 3]];
        foreach ([['x'], ['a' => 'b'], 7, true, []] as $odd) {
            $clip = ['OTIO_SCHEMA' => 'Clip.2', 'source_range' => $range, 'name' => $odd, 'active_media_reference_key' => $odd, 'media_references' => ['DEFAULT_MEDIA' => ['target_url' => $odd]], 'metadata' => $odd, 'effects' => [['OTIO_SCHEMA' => $odd], $odd]];
            $document = ['OTIO_SCHEMA' => 'Timeline.1', 'name' => $odd, 'tracks' => ['OTIO_SCHEMA' => 'Stack.1', 'children' => [['OTIO_SCHEMA' => 'Track.1', 'kind' => 'Video', 'children' => [
                $clip, ['media_references' => $odd] + $clip, ['media_reference' => $odd] + $clip, ['metadata' => ['cossel' => $odd, 'cmx_3600' => ['reel' => $odd]]] + $clip,
            ]]]]];
            $cut = OtioReader::read($document);
            self::assertSame(['', ['event 1', 'event 2', 'event 3', 'event 4']], [$cut->title, array_map(static fn(Event $e): string => $e->name, $cut->events)]);
            self::assertSame([null, null], [$cut->events[0]->file, $cut->events[3]->reel]);
            foreach ([['OTIO_SCHEMA' => $odd] + $clip, ['source_range' => ['start_time' => $odd] + $range] + $clip] as $broken) {
                try {
                    OtioReader::read(['tracks' => ['OTIO_SCHEMA' => 'Stack.1', 'children' => [['OTIO_SCHEMA' => 'Track.1', 'kind' => 'Video', 'children' => [$clip, $broken]]]]] + $document);
                    self::fail('It was read.');
                } catch (InvalidCut $reason) {
                    self::assertStringContainsString('/tracks/children/0/children/1', $reason->getMessage());
                }
            }
        }
    }
}
