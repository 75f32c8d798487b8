<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\Ffmpeg;
use App\Footage\FootageFile;
use App\Footage\FootageInfo;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\Timecode;
use Illuminate\Filesystem\Filesystem;

/**
 * Puts rendered parts together into the delivered file: times, colour tags, timecode, reel and sound as the footage has
 * them, cut to the span. The file appears under its name only when it is whole.
 */
final class Finisher
{
    public function __construct(private readonly Filesystem $files) {}

    /**
     * @param non-empty-array<string, int> $parts files in order, with the number of frames in each
     * @param string|null                  $reel  name of the footage's reel, where the cut tells it
     */
    public function finish(FootageFile $footage, Format $format, array $parts, int $from, int $to, string $file, Wishes $wishes = new Wishes(), ?string $reel = null): void
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
            $filters = self::filters($footage->info, $format, $wishes, $from, pathinfo($file, PATHINFO_FILENAME));
            $done = $format->isPictures()
                ? $this->pictures($footage, $format, $list, array_keys($parts), $from, $to, $work, $filters, $reel)
                : $this->film($footage, $format, $list, array_keys($parts), $from, $to, $work, $filters, $reel);
            rename($done, $file);
        } finally {
            $this->files->deleteDirectory($work);
        }
    }

    /** @return list<string> what the pictures go through on their way */
    private static function filters(FootageInfo $info, Format $format, Wishes $wishes, int $from, string $name): array
    {
        return [
            ...($wishes->height === null ? [] : ["scale=-2:{$wishes->height}:flags=lanczos+accurate_rnd+full_chroma_int+full_chroma_inp"]),
            ...($wishes->burn ? [BurnIn::filter($name, $from, self::timecode($info, $from), $info->rate)] : []),
            ...(Encoding::isVideo($format) ? [ColourTags::toVideo($info->format())] : []),
        ];
    }

    /**
     * @param list<string> $parts
     * @param list<string> $filters
     */
    private function film(FootageFile $footage, Format $format, string $list, array $parts, int $from, int $to, string $work, array $filters, ?string $reel): string
    {
        $done = "{$work}/done.{$format->extension()}";
        $info = $footage->info;
        $copy = $format->copies($info) && $filters === [];
        $times = [];
        if ($info->variable) {
            $filters = ["settb={$info->timeBase}", 'setpts=' . self::timesExpression($info, $from, $to), ...$filters];
            $times = ['-fps_mode', 'passthrough', '-enc_time_base', $info->timeBase];
        } elseif (!$copy) {
            $times = ['-r', $info->rate];
        }
        if ($filters !== []) {
            $script = "{$work}/filters.txt";
            $this->files->put($script, implode(',', $filters));
            $times = ['-filter_script:v', $script, ...$times];
        }
        Ffmpeg::run([
            '-f', 'concat', '-safe', '0', '-i', $list,
            ...$this->soundInput($footage, $from, $to),
            '-map', '0:v:0', ...($info->audio === null ? [] : ['-map', '1:a:0']),
            ...$times,
            ...($copy ? ['-c:v', 'copy', ...ColourTags::stored($info->format())] : Encoding::film($format, $info)),
            ...($info->audio === null ? [] : Encoding::sound($format, $info->audio['codec'], $from === 0 && $to === $info->frames() - 1)),
            ...($info->timecode === null && $reel === null ? [] : ['-metadata', 'timecode=' . self::timecode($info, $from)]),
            ...($reel === null ? [] : ['-metadata:s:v:0', "reel_name={$reel}"]),
            '-f', Encoding::container($format), $done,
        ], [...$parts, $footage->path, BurnIn::font()], [$work]);

        return $done;
    }

    /**
     * @param list<string> $parts
     * @param list<string> $filters
     */
    private function pictures(FootageFile $footage, Format $format, string $list, array $parts, int $from, int $to, string $work, array $filters, ?string $reel): string
    {
        $folder = "{$work}/frames";
        $this->files->makeDirectory($folder, recursive: true, force: true);
        $extension = match ($format) {
            Format::Exr => 'exr',
            Format::Tiff => 'tif',
            default => 'png',
        };
        $this->files->put("{$work}/filters.txt", implode(',', [...$filters, 'scale=flags=accurate_rnd+full_chroma_int']));
        Ffmpeg::run([
            '-f', 'concat', '-safe', '0', '-i', $list, '-map', '0:v:0', '-fps_mode', 'passthrough',
            ...($format->isLinear() ? [] : ['-filter_script:v', "{$work}/filters.txt"]), ...Encoding::pictures($format),
            '-start_number', (string) $from, '-f', 'image2', "{$folder}/%06d.{$extension}",
        ], [...$parts, BurnIn::font()], [$work]);
        if ($footage->info->audio !== null) {
            Ffmpeg::run([...$this->soundInput($footage, $from, $to), '-map', '0:a:0', '-c:a', 'pcm_s24le', "{$folder}/sound.wav"], [$footage->path], [$work]);
        }
        // What single pictures cannot tell.
        $about = ['rate' => $footage->info->rate, 'first' => $from, 'last' => $to, 'timecode' => $footage->info->timecode === null ? null : self::timecode($footage->info, $from), 'reel' => $reel];
        $this->files->put("{$folder}/sequence.json", json_encode($about, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE) . "\n");
        Zip::folder($folder, "{$work}/done.zip");

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
