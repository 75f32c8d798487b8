<?php

declare(strict_types=1);

namespace App\Footage;

use Symfony\Component\Process\Exception\ProcessSignaledException;
use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/**
 * The only place that starts ffmpeg and ffprobe. Foreign files are opened with whitelisted protocols, containers and
 * codecs, a bound on the picture's size and a time-out.
 */
final class Ffmpeg
{
    /** @return list<string> options to stand before the -i of a foreign file */
    public static function guarded(): array
    {
        $limits = config('limits.footage');

        return ['-protocol_whitelist', $limits['protocols'], '-format_whitelist', $limits['formats'], '-codec_whitelist', $limits['codecs'], '-max_pixels', (string) $limits['pixels']];
    }

    /**
     * What ffprobe says of a foreign file.
     *
     * @param list<string> $options
     *
     * @return array<string, mixed>
     *
     * @throws UnreadableFootage|FfmpegInterrupted
     */
    public static function probe(string $file, array $options, float $timeout, string $work = 'read'): array
    {
        return self::ask([...self::guarded(), ...$options, '-i', $file], $file, $timeout, $work);
    }

    /**
     * What ffprobe says of the frames of numbered pictures.
     *
     * @param list<string> $options with the demuxer and its whitelists
     *
     * @return list<array<string, mixed>>
     *
     * @throws UnreadableFootage|FfmpegInterrupted
     */
    public static function probePictures(array $options, string $pictures): array
    {
        return self::ask([...$options, '-i', $pictures], dirname($pictures), 3600, 'read')['frames'] ?? [];
    }

    /**
     * Width and height of a picture.
     *
     * @param list<string> $options with the demuxer and its whitelists
     *
     * @return array{int, int}
     *
     * @throws UnreadableFootage|FfmpegInterrupted
     */
    public static function pictureSize(array $options, string $picture): array
    {
        $stream = self::ask([...$options, '-show_entries', 'stream=width,height', '-i', $picture], dirname($picture), 60, 'look')['streams'][0] ?? [];
        $size = [(int) ($stream['width'] ?? 0), (int) ($stream['height'] ?? 0)];

        return min($size) > 0 ? $size : throw UnreadableFootage::noFrames();
    }

    /**
     * @param list<string> $options
     *
     * @return array<string, mixed>
     */
    private static function ask(array $options, string $reads, float $timeout, string $work): array
    {
        $process = new Process(Jail::around(['ffprobe', '-v', 'error', '-of', 'json', ...$options], [$reads], [], $work), timeout: $timeout);
        $spent = self::spent();
        $said = 0;
        $began = hrtime(true);
        try {
            $process->run(static function (string $type, string $text) use (&$said): void {
                $said += strlen($text);
                if ($said > config('limits.ffmpeg.said_bytes')) {
                    throw UnreadableFootage::saysTooMuch();
                }
            });
        } catch (ProcessTimedOutException) {
            self::checkClock($began, $timeout);

            throw UnreadableFootage::tookTooLong();
        } catch (ProcessSignaledException) {
            throw self::isOverTime($process, $spent, $work) ? UnreadableFootage::tookTooLong() : FfmpegInterrupted::create();
        } finally {
            $process->stop(0);
        }
        if ($process->getExitCode() !== 0 && self::isOverTime($process, $spent, $work)) {
            throw UnreadableFootage::tookTooLong();
        }
        self::checkWhole($process);
        if ($process->getExitCode() !== 0) {
            throw UnreadableFootage::because(FfmpegWords::reason($process));
        }
        $answer = json_decode($process->getOutput(), true);

        return is_array($answer) ? $answer : throw UnreadableFootage::because('its description cannot be read');
    }

    /**
     * Runs ffmpeg to its end.
     *
     * @param list<string>                           $options
     * @param list<string>                           $reads   files and folders it needs
     * @param list<string>                           $writes  folders it writes in
     * @param iterable<string>|resource|string|null  $input   for its standard input
     * @param string                                 $work    what it does, for the limit of its processor time
     *
     * @throws FfmpegFailed|FfmpegInterrupted|StorageFull
     */
    public static function run(array $options, array $reads, array $writes, mixed $input = null, float $timeout = 3600, string $work = 'encode'): void
    {
        $command = ['ffmpeg', '-hide_banner', '-v', 'error', ...($input === null ? ['-nostdin'] : []), ...$options];
        $process = new Process(Jail::around($command, $reads, $writes, $work), input: $input, timeout: $timeout);
        $spent = self::spent();
        $began = hrtime(true);
        try {
            $process->run();
        } catch (ProcessTimedOutException) {
            self::checkClock($began, $timeout);

            throw FfmpegFailed::tookTooLong();
        } catch (ProcessSignaledException) {
            throw self::isOverTime($process, $spent, $work) ? FfmpegFailed::tookTooLong() : FfmpegInterrupted::create();
        }
        if (!$process->isSuccessful() && self::isOverTime($process, $spent, $work)) {
            throw FfmpegFailed::tookTooLong();
        }
        self::checkWhole($process);
        if (!$process->isSuccessful()) {
            throw FfmpegFailed::because(FfmpegWords::reason($process));
        }
    }

    /**
     * What ffmpeg writes to its standard output, in pieces of one size, made as they are taken.
     *
     * @param list<string> $options
     * @param list<string> $reads   files it needs
     *
     * @return \Generator<int, string>
     *
     * @throws FfmpegFailed|FfmpegInterrupted after the last whole piece
     */
    public static function pieces(array $options, array $reads, int $bytes): \Generator
    {
        $process = new Process(Jail::around(['ffmpeg', '-hide_banner', '-v', 'error', '-nostdin', ...$options, 'pipe:1'], $reads, []), timeout: null);
        $spent = self::spent();
        $process->start();
        try {
            $held = '';
            foreach ($process->getIterator(Process::ITER_SKIP_ERR) as $written) {
                $held .= $written;
                while (strlen($held) >= $bytes) {
                    yield substr($held, 0, $bytes);
                    $held = substr($held, $bytes);
                }
            }
        } finally {
            $process->stop(0);
        }
        if (!$process->isSuccessful() && self::isOverTime($process, $spent, 'read')) {
            throw FfmpegFailed::tookTooLong();
        }
        self::checkWhole($process);
        if (!$process->isSuccessful()) {
            throw FfmpegFailed::because(FfmpegWords::reason($process));
        }
    }

    /** Seconds of processor time that programs started from here and over with have taken. */
    private static function spent(): float
    {
        $usage = getrusage(1) ?: [];

        return ($usage['ru_utime.tv_sec'] ?? 0) + ($usage['ru_stime.tv_sec'] ?? 0) + 1e-6 * (($usage['ru_utime.tv_usec'] ?? 0) + ($usage['ru_stime.tv_usec'] ?? 0));
    }

    /** Whether what ended since took about all the processor time it may have: then it was ended for that, and would be again. */
    private static function isOverTime(Process $process, float $before, string $work): bool
    {
        return max(self::spent() - $before, Jail::told($process->getErrorOutput())) >= 0.8 * config("limits.ffmpeg.cpu_seconds.{$work}");
    }

    /** Time-outs go by the clock on the wall; when that was set on, nothing took too long. */
    private static function checkClock(int $began, float $timeout): void
    {
        if ((hrtime(true) - $began) * 1e-9 < 0.9 * $timeout) {
            throw FfmpegInterrupted::create();
        }
    }

    /** What ended it from outside, or a full disk, says nothing of the file. */
    private static function checkWhole(Process $process): void
    {
        if ($process->hasBeenSignaled() || (int) $process->getExitCode() > 128) {
            throw FfmpegInterrupted::create();
        }
        $said = $process->isSuccessful() ? '' : $process->getErrorOutput();
        if (str_contains($said, 'No space left on device')) {
            throw StorageFull::full();
        }
        if (str_contains($said, 'No such file or directory')) {
            throw FfmpegInterrupted::fileGone();
        }
    }
}
