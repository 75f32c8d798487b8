<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Face\Crowd;
use Cossel\Core\Face\Descriptor;
use Cossel\Core\Face\Mesh;
use Symfony\Component\Process\Process;

/** Lays meshes over the faces of frames, and a matte over their people. Nets of a package do it, in a process of its own (server/faces); what becomes of them is the core's. */
final class FaceMeter
{
    /** Rows of the pictures that faces are measured in. */
    private const ROWS = 540;
    /** New faces are looked for on each of so many frames, small ones too; large ones on each of so many. Between them those that are known are followed. */
    private const SEARCH = 24;
    private const LOOK = Crowd::UNNOTICED;
    /** Bytes that a pipe takes at once. */
    private const PIPE = 65536;
    /** Seconds without an answer after which it is given up. */
    private const PATIENCE = 60;

    public function __construct(private readonly FrameCache $frames) {}

    /** What tells this way of measuring from others: what was measured in another way is measured again. */
    public static function method(): string
    {
        static $method = null;
        if ($method === null) {
            // The nets' weights by the sums that stand in the script.
            $files = [base_path('scripts/models.mjs'), ...(glob(base_path('server/faces/*.cjs')) ?: [])];
            $method = substr(hash('sha256', implode('', array_map(static fn(string $file): string => (string) hash_file('sha256', $file), $files)) . json_encode([self::ROWS, self::SEARCH, self::LOOK])), 0, 12);
        }

        return $method;
    }

    /**
     * @param list<int> $numbers frames; those in a row are gone through as such
     *
     * @return \Generator<int, Measured> by frame, as soon as each is known
     *
     * @throws CannotFindFaces
     */
    public function on(FootageFile $footage, array $numbers): \Generator
    {
        $rows = FrameCache::kept($footage->info, self::ROWS);
        $process = new Process(['node', base_path('server/faces/measure.cjs')], timeout: null);
        $process->setIdleTimeout(self::PATIENCE);
        $process->setInput($this->pictures($footage, $numbers, $rows));
        $text = $wrong = '';
        $k = 0;
        try {
            $process->start();
            foreach ($process as $type => $part) {
                if ($type === Process::ERR) {
                    $wrong .= $part;
                    continue;
                }
                $text .= $part;
                while (($end = strpos($text, "\n")) !== false) {
                    yield $numbers[$k++] => self::measured(substr($text, 0, $end), $rows);
                    $text = substr($text, $end + 1);
                }
            }
        } catch (\Symfony\Component\Process\Exception\RuntimeException $reason) {
            report($reason);

            throw new CannotFindFaces('Faces could not be measured: it took too long. Try it again.', previous: $reason);
        } finally {
            $process->stop(0);
        }
        if ($k < count($numbers)) {
            report(new \RuntimeException('Measuring faces ended early' . ($wrong === '' ? '.' : ": {$wrong}")));

            throw new CannotFindFaces('Faces could not be measured: the process that does it ended early. Try it again.');
        }
    }

    private static function measured(string $line, int $rows): Measured
    {
        ['faces' => $faces, 'people' => $people] = json_decode($line, true, flags: JSON_THROW_ON_ERROR);
        $meshes = array_map(static function (array $face) use ($rows): Mesh {
            $mesh = Mesh::of($face['score'], array_map(static fn(float|int $v): float => $v / $rows, array_merge(...$face['points'])));

            return isset($face['descriptor']) ? $mesh->described(Descriptor::of((string) base64_decode($face['descriptor'], true))) : $mesh;
        }, $faces);

        return new Measured($meshes, $people['across'], $people['down'], (string) base64_decode($people['cells'], true));
    }

    /**
     * @param list<int> $numbers
     *
     * @return \Generator<int, string>
     */
    private function pictures(FootageFile $footage, array $numbers, int $rows): \Generator
    {
        foreach ($numbers as $k => $number) {
            $isNext = $k > 0 && abs($number - $numbers[$k - 1]) === 1;
            $frame = $this->frames->frame($footage, $number, $rows);
            $format = $frame->format;
            yield json_encode([
                'width' => $format->width,
                'height' => $format->height,
                'word' => match (true) {
                    !$isNext => 'anew',
                    $k % self::SEARCH === 0 => 'search',
                    $k % self::LOOK === 0 => 'look',
                    default => 'follow',
                },
                'rgb' => $format->toRgb8(),
            ], JSON_THROW_ON_ERROR) . "\n";
            // Whatever does not go into the pipe at once is copied by the package that writes it.
            yield from str_split($frame->bytes, self::PIPE);
        }
    }
}
