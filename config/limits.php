<?php

declare(strict_types=1);

// What is taken from outside at the most, all in one place; docs/reliability.md says what a user reads beyond each.
return [
    'footage' => [
        // What reaches ffmpeg of a foreign file, by its own names.
        'protocols' => 'file',
        'formats' => 'matroska,ogg,mov',
        'codecs' => 'vp8,vp9,libdav1d,libaom-av1,av1,h264,hevc,mpeg4,mpeg2video,theora,ffv1,prores,dnxhd,mjpeg,png,tiff,rawvideo,huffyuv,ffvhuff,utvideo,v210,'
            . 'opus,libopus,vorbis,libvorbis,flac,aac,mp3,mp3float,alac,pcm_s16le,pcm_s24le,pcm_s32le,pcm_f32le,pcm_s16be,pcm_s24be',
        'upload_bytes' => (int) env('COSSEL_MOST_UPLOAD_BYTES', 64 * 1024 ** 3),
        'unpacked_bytes' => (int) env('COSSEL_MOST_UNPACKED_BYTES', 64 * 1024 ** 3),
        // Of one picture of a sequence.
        'picture_bytes' => 512 * 1024 ** 2,
        'side' => 8192,
        // 8192 x 4320: beyond it a single frame takes more memory than a process has.
        'pixels' => 36_000_000,
        'frames' => 20000,
        // How long a folder of the server may say nothing while something is copied out of it.
        'silent_seconds' => 60,
    ],
    // Bytes of a request before it reaches PHP: of a file's piece or text, and of anything else.
    'bodies' => ['file' => 16 * 1024 ** 2, 'any' => 4 * 1024 ** 2],
    // Of every ffmpeg and ffprobe: address space, bytes of any file it writes, bytes it says; in its jail, processes (with threads) and
    // bytes of its temporary folder; and seconds of processor time by what it does: looking at a head, reading a whole file, encoding.
    'ffmpeg' => [
        'memory_bytes' => 8 * 1024 ** 3,
        'processes' => 1024,
        'temporary_bytes' => 64 * 1024 ** 2,
        'cpu_seconds' => ['look' => 300, 'read' => 3600, 'encode' => 4 * 3600],
        'file_bytes' => 256 * 1024 ** 3,
        'said_bytes' => 64 * 1024 ** 2,
    ],
    // Of one picture: seconds that it may be expected to take, as Render\Prices says, the processor seconds after which it is ended,
    // and memory. Of one frame of a delivery: seconds that it may be expected to take.
    'picture' => ['seconds' => 30, 'cpu_seconds' => 90, 'memory' => '1G'],
    'delivery' => ['seconds' => 300],
    'light' => ['memory' => '512M'],
    // How long is kept what was left: uploads nobody went on with, parts of deliveries that were given up, tracks and tables no
    // recipe names; and how many databases set aside by upgrades.
    'kept' => ['uploads_days' => 7, 'parts_days' => 14, 'unnamed_days' => 1, 'set_aside' => 5],
    // Of a cut, of a bundle's manifest, of a track: how many values, and how many lists and objects.
    'json' => ['values' => 5_000_000, 'arrays' => 1_000_000],
    'bundle' => ['manifest_bytes' => 64 * 1024 ** 2, 'track_bytes' => 128 * 1024 ** 2, 'shots' => 10_000, 'notes' => 10_000, 'versions' => 1_000, 'named' => 1_000],
    // Of a look-up table; of a cut; of any other text.
    'texts' => ['cube_bytes' => 16_000_000, 'cut_bytes' => 64_000_000, 'bytes' => 2_000_000],
];
