<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Propose\Landmarks;
use Symfony\Component\Process\Process;

/** Landmarks of what may be faces on frames on which no mesh was laid over one: heads that are tilted far. A package finds them, in a process of its own. */
final class TurnedFaces
{
    /** Rows of the pictures that faces are looked for in. */
    private const ROWS = 540;
    /** Seconds that starting takes at most, and each picture. */
    private const PATIENCE = [20, 10];

    public function __construct(private readonly FrameCache $frames) {}

    /**
     * @param list<int> $numbers frames
     *
     * @return array<int, list<Landmarks>> by frame
     *
     * @throws CannotFindFaces
     */
    public function on(FootageFile $footage, array $numbers): array
    {
        $rows = FrameCache::kept($footage->info, self::ROWS);
        $process = new Process(['node', base_path('server/faces/find.cjs')], timeout: self::PATIENCE[0] + count($numbers) * self::PATIENCE[1]);
        $process->setInput($this->pictures($footage, $numbers, $rows));
        try {
            $process->mustRun();
        } catch (\Symfony\Component\Process\Exception\RuntimeException $reason) {
            report($reason);

            throw new CannotFindFaces('The finder of faces did not work: ' . (trim($process->getErrorOutput()) ?: 'it took too long') . '. Try it again.', previous: $reason);
        }
        $answers = array_map(static fn(string $line): array => json_decode($line, true, flags: JSON_THROW_ON_ERROR), explode("\n", trim($process->getOutput())));
        $place = static fn(array $p): array => [$p[0] / $rows, $p[1] / $rows];

        return array_combine($numbers, array_map(static fn(array $faces): array => array_map(static fn(array $face): Landmarks => Landmarks::of(array_map($place, $face)), $faces), $answers));
    }

    /**
     * @param list<int> $numbers
     *
     * @return \Generator<int, string>
     */
    private function pictures(FootageFile $footage, array $numbers, int $rows): \Generator
    {
        foreach ($numbers as $number) {
            $frame = $this->frames->frame($footage, $number, $rows);
            $rect = $frame->format->rect();
            yield "{$rect->width} {$rect->height}\n" . Bytes::bgrx8($frame->window($rect));
        }
    }
}
