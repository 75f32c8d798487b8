<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\Ffmpeg;
use App\Footage\FootageFile;
use App\Footage\FrameReader;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Render\FrameRenderer;
use Illuminate\Filesystem\Filesystem;

/** Finished mattes of areas as numbered pictures, a folder an area. */
final class MatteFiles
{
    private const ENCODINGS = [
        'png' => ['png', '-pix_fmt', 'gray16be', '-c:v', 'png'],
        'tiff' => ['tif', '-pix_fmt', 'gray16le', '-c:v', 'tiff', '-compression_algo', 'deflate'],
        'exr' => ['exr', '-vf', 'scale=in_range=pc:out_range=pc', '-pix_fmt', 'grayf32le', '-c:v', 'exr', '-format', 'half', '-compression', 'zip16'],
    ];

    public function __construct(private readonly FrameReader $frames, private readonly Filesystem $files) {}

    /**
     * @param list<Area>         $areas
     * @param string             $folder where the areas' folders go
     * @param key-of<self::ENCODINGS> $as
     */
    public function write(FrameRenderer $renderer, array $areas, FootageFile $footage, int $from, int $to, string $folder, string $as = 'png'): void
    {
        [$extension] = self::ENCODINGS[$as];
        $frame = $footage->info->format()->rect();
        foreach ($areas as $area) {
            $this->files->makeDirectory("{$folder}/{$area->id}", recursive: true, force: true);
            $into = (string) realpath("{$folder}/{$area->id}");
            $mattes = (function () use ($renderer, $area, $footage, $frame, $from, $to): \Generator {
                foreach ($this->frames->frames($footage, $from, $to) as $number => $untreated) {
                    yield from str_split(Bytes::grey16($renderer->matte($untreated, $area, $number, $frame)), 262144);
                }
            })();
            Ffmpeg::run([
                '-f', 'rawvideo', '-pix_fmt', 'gray16be', '-s', "{$frame->width}x{$frame->height}", '-i', 'pipe:0',
                ...array_slice(self::ENCODINGS[$as], 1), '-start_number', (string) $from, '-f', 'image2', '-y', "{$into}/%06d.{$extension}",
            ], [], [$into], $mattes);
        }
    }
}
