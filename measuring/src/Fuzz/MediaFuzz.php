<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\ImageSequence;
use App\Footage\Probe;
use App\Footage\RefusedFootage;
use App\Footage\UnreadableFootage;
use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** Containers and archives with bits turned, cut off, pieces missing or twice; what is taken must give every frame it says it has. */
final class MediaFuzz implements Fuzz
{
    private const CLIPS = [
        'a.mkv' => ['-c:v', 'libx264', '-g', '6', '-pix_fmt', 'yuv420p', '-c:a', 'flac'],
        'b.mp4' => ['-c:v', 'libx264', '-g', '6', '-bf', '2', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
        'c.webm' => ['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-pix_fmt', 'yuv420p', '-c:a', 'libopus'],
        'd.mkv' => ['-c:v', 'ffv1', '-level', '3', '-slicecrc', '1', '-pix_fmt', 'yuv422p10le', '-an'],
        'e.mov' => ['-c:v', 'prores_ks', '-pix_fmt', 'yuv422p10le', '-c:a', 'pcm_s16le'],
        'f.ogg' => ['-c:v', 'libtheora', '-pix_fmt', 'yuv420p', '-an'],
    ];

    private const PICTURES = ['png' => [], 'tiff' => [], 'jpg' => ['-q:v', '2'], 'dpx' => ['-pix_fmt', 'gbrp10be'], 'exr' => ['-pix_fmt', 'gbrpf32le', '-compression', 'zip1']];

    /** @var array<string, string> */
    private array $clips = [];

    public function __construct(private readonly Probe $probe, private readonly ImageSequence $sequence, private readonly FrameCache $frames, private readonly Filesystem $files, private readonly string $folder) {}

    public function name(): string
    {
        return 'media';
    }

    public function about(): string
    {
        return '';
    }

    public function seconds(): float
    {
        return self::MOST_SECONDS;
    }

    public function try(Dice $dice): ?string
    {
        $this->clips = $this->clips === [] ? $this->made() : $this->clips;
        // What goes on in a jail is told to nobody: without one, the memory that ffmpeg takes is known.
        config(['cossel.jail' => 'no']);
        $name = $dice->one(array_keys($this->clips));
        $file = "{$this->folder}/case-{$name}";
        file_put_contents($file, $this->clips[$name]);
        $ended = null;
        if (str_ends_with($name, '.zip') && $dice->happens(0.3)) {
            $ended = self::endPicture($file, $dice);
        } elseif (str_ends_with($name, '.zip') && $dice->happens(0.5)) {
            self::changePictures($file, $dice);
        } elseif ($dice->happens(0.95)) {
            file_put_contents($file, Mutation::ofBytes($this->clips[$name], $dice));
        }
        try {
            $sha256 = (string) hash_file('sha256', $file);
            if (ImageSequence::is($file)) {
                $told = $this->sequence->toFootage($file, "{$file}.mkv");
                if ($ended !== null && !str_contains(implode(' ', $told), $ended)) {
                    return "took {$ended}, which ends early, without a word";
                }
                $file = "{$file}.mkv";
            }
            $footage = new FootageFile($file, $sha256, $this->probe->read($file), $name);
            $this->frames->frame($footage, $footage->info->frames() - 1, 32);
            $this->frames->frame($footage, 0, 32);
        } catch (UnreadableFootage|RefusedFootage $refusal) {
            return str_contains($refusal->getMessage(), $this->folder) ? 'tells where files lie' : null;
        } finally {
            config(['cossel.jail' => null]);
            isset($footage) && $this->frames->forget($footage->sha256);
            $this->files->delete("{$this->folder}/case-{$name}", "{$this->folder}/case-{$name}.mkv");
        }

        return null;
    }

    /** Cuts one picture of an archive off. @return string its name */
    private static function endPicture(string $file, Dice $dice): string
    {
        $zip = new \ZipArchive();
        $zip->open($file);
        $name = (string) $zip->getNameIndex($dice->whole(0, $zip->numFiles - 1));
        $bytes = (string) $zip->getFromName($name);
        $zip->addFromString($name, substr($bytes, 0, $dice->whole(intdiv(strlen($bytes), 2), strlen($bytes) - 1)));
        $zip->close();

        return $name;
    }

    /** Pictures inside of an archive that is whole. */
    private static function changePictures(string $file, Dice $dice): void
    {
        $zip = new \ZipArchive();
        $zip->open($file);
        for ($n = $dice->whole(1, 2); $n > 0; --$n) {
            $name = (string) $zip->getNameIndex($dice->whole(0, $zip->numFiles - 1));
            $zip->addFromString($name, Mutation::ofBytes((string) $zip->getFromName($name), $dice));
        }
        $zip->close();
    }

    /** @return array<string, string> */
    private function made(): array
    {
        $source = ['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24:duration=0.75', '-f', 'lavfi', '-i', 'sine=duration=0.75'];
        foreach (self::CLIPS as $name => $options) {
            (new Process(['ffmpeg', '-v', 'error', ...$source, ...$options, '-y', "{$this->folder}/{$name}"], timeout: 60))->mustRun();
            $clips[$name] = (string) file_get_contents("{$this->folder}/{$name}");
        }
        foreach (self::PICTURES as $type => $options) {
            (new Process(['ffmpeg', '-v', 'error', ...$source, '-frames:v', '5', '-an', ...$options, '-y', "{$this->folder}/%03d.{$type}"], timeout: 60))->mustRun();
            $zip = new \ZipArchive();
            $zip->open("{$this->folder}/{$type}.zip", \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
            foreach (glob("{$this->folder}/*.{$type}") ?: [] as $picture) {
                $zip->addFile($picture, basename($picture));
            }
            $zip->close();
            $clips["{$type}.zip"] = (string) file_get_contents("{$this->folder}/{$type}.zip");
        }

        return $clips;
    }
}
