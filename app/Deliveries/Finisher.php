<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\Ffmpeg;
use App\Footage\FootageFile;
use App\Footage\FootageInfo;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\Timecode;
use Cossel\Core\Picture\Layout;
use Illuminate\Filesystem\Filesystem;

/**
 * Puts rendered parts together into the delivered file: times, colour tags, timecode and sound as the footage has
 * them, cut to the span. The file appears under its name only when it is whole.
 */
final class Finisher
{
    public function __construct(private readonly Filesystem $files) {}

    /** @param non-empty-array<string, int> $parts files in order, with the number of frames in each */
    public function finish(FootageFile $footage, Format $format, array $parts, int $from, int $to, string $file): void
    {
        $work = "{$file}.work";
        $this->files->deleteDirectory($work);
        $this->files->makeDirectory($work, recursive: true, force: true);
        try {
            $list = "{$work}/parts.txt";
            $entries = '';
            foreach ($parts as $part => $frames) {
                // The exact length, or each part's end, rounded to milliseconds, would add up.
                $entries .= sprintf("file '%s'\nduration %.9F\n", str_replace("'", "'\\''", $part), $frames / $footage->info->fps());
            }
            $this->files->put($list, $entries);
            $done = $format === Format::Png
                ? $this->images($footage, $list, array_keys($parts), $from, $to, $work)
                : $this->film($footage, $format, $list, array_keys($parts), $from, $to, $work);
            rename($done, $file);
        } finally {
            $this->files->deleteDirectory($work);
        }
    }

    /** @param list<string> $parts */
    private function film(FootageFile $footage, Format $format, string $list, array $parts, int $from, int $to, string $work): string
    {
        $done = "{$work}/done.{$format->extension()}";
        $info = $footage->info;
        $times = [];
        if ($info->variable) {
            $script = "{$work}/times.txt";
            $this->files->put($script, "settb={$info->timeBase},setpts=" . self::timesExpression($info, $from, $to) . ($format === Format::Vp9 ? ',' . ColourTags::toVideo($info->format()) : ''));
            $times = ['-filter_script:v', $script, '-fps_mode', 'passthrough', '-enc_time_base', $info->timeBase];
        } elseif ($format === Format::Vp9) {
            $times = ['-vf', ColourTags::toVideo($info->format())];
        }
        $copy = $format->copies($info);
        $picture = match (true) {
            $copy => ['-c:v', 'copy'],
            $format === Format::Ffv1 => PartRenderer::master($info->format()),
            $format === Format::Ffv1TenBit => ['-pix_fmt', $info->layout === Layout::Yuv ? 'yuv444p10le' : 'gbrp10le', '-c:v', 'ffv1', '-level', '3', '-coder', '1', '-g', '1', '-slices', '4', '-slicecrc', '1'],
            default => ['-pix_fmt', 'yuv420p', '-c:v', 'libvpx-vp9', '-crf', '16', '-b:v', '0', '-row-mt', '1', '-cpu-used', '4', '-deadline', 'good'],
        };
        Ffmpeg::run([
            '-f', 'concat', '-safe', '0', '-i', $list,
            ...$this->soundInput($footage, $from, $to),
            '-map', '0:v:0', ...($info->audio === null ? [] : ['-map', '1:a:0']),
            ...$times,
            ...$picture,
            ...($copy || $info->variable ? [] : ['-r', $info->rate]),
            ...($format === Format::Vp9 ? ColourTags::video($info->format()) : ColourTags::stored($info->format())),
            ...$this->soundCodec($info, $format, $from, $to),
            ...($info->timecode === null ? [] : ['-metadata', 'timecode=' . self::timecode($info, $from)]),
            '-f', $format->extension() === 'mkv' ? 'matroska' : 'webm', $done,
        ], [...$parts, $footage->path], [$work]);

        return $done;
    }

    /** @param list<string> $parts */
    private function images(FootageFile $footage, string $list, array $parts, int $from, int $to, string $work): string
    {
        $this->files->makeDirectory("{$work}/frames", recursive: true, force: true);
        Ffmpeg::run([
            '-f', 'concat', '-safe', '0', '-i', $list, '-map', '0:v:0', '-fps_mode', 'passthrough',
            '-vf', 'scale=flags=accurate_rnd+full_chroma_int', '-pix_fmt', 'rgb48be', '-c:v', 'png', '-compression_level', '4', '-start_number', (string) $from, "{$work}/frames/%06d.png",
        ], $parts, [$work]);
        if ($footage->info->audio !== null) {
            Ffmpeg::run([...$this->soundInput($footage, $from, $to), '-map', '0:a:0', '-c:a', 'pcm_s24le', "{$work}/frames/sound.wav"], [$footage->path], [$work]);
        }
        $zip = new \ZipArchive();
        $zip->open("{$work}/done.zip", \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        foreach ($this->files->files("{$work}/frames") as $picture) {
            $zip->addFile($picture->getPathname(), $picture->getFilename());
            // PNG is packed already.
            $zip->setCompressionName($picture->getFilename(), \ZipArchive::CM_STORE);
        }
        $zip->close();

        return "{$work}/done.zip";
    }

    /** @return list<string> */
    private function soundInput(FootageFile $footage, int $from, int $to): array
    {
        $info = $footage->info;
        if ($info->audio === null) {
            return [];
        }
        $start = $info->seconds($from) - $info->start;
        $end = $info->seconds($to) - $info->start + 1 / $info->fps();

        return [...($from === 0 ? [] : ['-ss', sprintf('%.6F', $start)]), '-t', sprintf('%.6F', $end - ($from === 0 ? 0 : $start)), ...Ffmpeg::guarded(), '-i', $footage->path];
    }

    /** @return list<string> */
    private function soundCodec(FootageInfo $info, Format $format, int $from, int $to): array
    {
        if ($info->audio === null) {
            return [];
        }
        $whole = $from === 0 && $to === $info->frames() - 1;

        return match (true) {
            $format === Format::Vp9 => $whole && $info->audio['codec'] === 'opus' ? ['-c:a', 'copy'] : ['-c:a', 'libopus', '-b:a', '160k'],
            $whole => ['-c:a', 'copy'],
            default => ['-c:a', 'pcm_s24le'],
        };
    }

    /**
     * The frames' times as an expression of the frame number N, a balanced tree so that it is shallow however long:
     * runs of equal steps are one leaf.
     */
    private static function timesExpression(FootageInfo $info, int $from, int $to): string
    {
        $runs = [];
        for ($i = $from; $i <= $to; ++$i) {
            $last = count($runs) - 1;
            $time = $info->times[$i] - $info->times[$from];
            if ($last >= 0 && ($runs[$last][2] === null || $time === $runs[$last][1] + $runs[$last][2] * ($i - $from - $runs[$last][0]))) {
                $runs[$last][2] ??= $time - $runs[$last][1];
            } else {
                $runs[] = [$i - $from, $time, null];
            }
        }
        $tree = static function (int $low, int $high) use (&$tree, $runs): string {
            if ($low === $high) {
                [$first, $time, $step] = $runs[$low];

                return sprintf('%d+(N-%d)*%d', $time, $first, $step ?? 0);
            }
            $middle = intdiv($low + $high + 1, 2);

            return sprintf('if(lt(N\\,%d)\\,%s\\,%s)', $runs[$middle][0], $tree($low, $middle - 1), $tree($middle, $high));
        };

        return sprintf('(%s)*%s/TB', $tree(0, count($runs) - 1), $info->timeBase);
    }

    /** The source's timecode at the first delivered frame. */
    private static function timecode(FootageInfo $info, int $from): string
    {
        $base = max(1, (int) round($info->fps()));
        try {
            $begins = Timecode::parse((string) $info->timecode, $base);
        } catch (InvalidCut) {
            $begins = Timecode::at(0, $base);
        }

        return $begins->plus($from)->text();
    }
}
