<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FootageFile;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\PeopleMatte;
use Illuminate\Filesystem\Filesystem;

/** The faces and the people of footage: kept by its content, measured where they are not yet. */
final class Faces
{
    /** Frames written together. */
    private const TOGETHER = 12;

    /**
     * @param string $path      of the folder they are kept in
     * @param int    $mostBytes of all of them together
     */
    public function __construct(private readonly Filesystem $files, private readonly FaceMeter $meter, private readonly string $path, private readonly int $mostBytes) {}

    /**
     * The faces on all frames of a span; those that were not measured yet are measured now.
     *
     * @param callable(int, int): bool|null $goesOn told after each frame that is measured now how many are, and of how many; false stops
     *
     * @throws CannotFindFaces
     */
    public function through(FootageFile $footage, int $from, int $to, ?callable $goesOn = null): MeasuredFaces
    {
        $file = $this->file($footage);
        $missing = $this->missing($footage, $from, $to, PHP_INT_MAX);
        $missing === [] || $this->measure($footage, $missing, $goesOn);

        return new MeasuredFaces($file->faces($from, $to), $from, $to);
    }

    /**
     * @return list<Mesh> on one frame
     *
     * @throws CannotFindFaces
     */
    public function on(FootageFile $footage, int $frame): array
    {
        return $this->through($footage, $frame, $frame)->on($frame);
    }

    /**
     * The matte of all people on a frame.
     *
     * @param int $until the last frame that is measured along, where it was not measured yet
     *
     * @throws CannotFindFaces
     */
    public function people(FootageFile $footage, int $frame, int $until): PeopleMatte
    {
        $file = $this->file($footage);
        $people = $file->people($frame);
        if ($people === null) {
            $this->through($footage, $frame, $until);
            $people = $file->people($frame);
        }

        return $people ?? throw new CannotFindFaces("The people on frame {$frame} could not be kept. Try it again.");
    }

    /** What is known so far. */
    public function known(FootageFile $footage, int $from, int $to): MeasuredFaces
    {
        return new MeasuredFaces($this->file($footage)->faces($from, $to), $from, $to);
    }

    /**
     * @param non-empty-list<int>           $frames
     * @param callable(int, int): bool|null $goesOn told after each how many are measured, and of how many; false stops
     *
     * @throws CannotFindFaces
     */
    public function measure(FootageFile $footage, array $frames, ?callable $goesOn = null): void
    {
        $file = $this->file($footage);
        $new = [];
        $done = 0;
        try {
            foreach ($this->meter->on($footage, $frames) as $frame => $faces) {
                $new[$frame] = $faces;
                if (count($new) >= self::TOGETHER) {
                    $file->add($new);
                    $new = [];
                }
                if ($goesOn !== null && !$goesOn(++$done, count($frames))) {
                    break;
                }
            }
        } finally {
            $new === [] || $file->add($new);
        }
        $this->keepBound();
    }

    /**
     * Frames of a span that were not measured yet, in their order.
     *
     * @param int $most how many at the most
     *
     * @return list<int>
     */
    public function missing(FootageFile $footage, int $from, int $to, int $most): array
    {
        $known = $this->file($footage)->frames($from, $to);
        $missing = [];
        for ($frame = $from; $frame <= $to && count($missing) < $most; ++$frame) {
            if (!isset($known[$frame])) {
                $missing[] = $frame;
            }
        }

        return $missing;
    }

    /** Gives back the space that those of a file take. */
    public function forget(string $sha256): void
    {
        $this->files->delete($this->files->glob("{$this->path}/{$sha256}.*"));
    }

    /** Throws all away; whoever needs some has them measured again. */
    public function empty(): void
    {
        $this->files->delete([...$this->files->glob("{$this->path}/*" . FaceFile::PLACES), ...$this->files->glob("{$this->path}/*.faces")]);
    }

    /** Lets those go that were not used for longest, and those measured in another way, as far as there are too many. */
    private function keepBound(): void
    {
        $sizes = $used = [];
        foreach ($this->files->glob("{$this->path}/*.faces") as $file) {
            $sizes[$file] = (int) @filesize($file);
            $used[$file] = (int) @filemtime($file);
        }
        asort($used);
        $bytes = array_sum($sizes);
        foreach (array_keys($used) as $file) {
            if ($bytes <= $this->mostBytes) {
                break;
            }
            $this->files->delete([$file . FaceFile::PLACES, $file]);
            $bytes -= $sizes[$file];
        }
    }

    private function file(FootageFile $footage): FaceFile
    {
        return new FaceFile("{$this->path}/{$footage->sha256}." . FaceMeter::method() . '.faces');
    }
}
