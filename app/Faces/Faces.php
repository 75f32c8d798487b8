<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FileLock;
use App\Footage\FootageFile;
use Cossel\Core\Face\FacePlaces;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Face\SeenPerson;
use Illuminate\Filesystem\Filesystem;

/** The faces and the people of footage: kept by its content, measured where they are not yet. */
final class Faces
{
    /** Frames written together. */
    private const TOGETHER = 12;
    /** Frames measured at most while somebody waits to know who is who. */
    private const AT_ONCE = 24;
    private const FACES = '.faces';
    private const PLACES = '.places';
    private const SEEN = '.seen';

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

    /**
     * Where the face is that was pointed out, on the frames of a span; null where no face is seen on that frame. Worked out once for all.
     *
     * @param array{float, float} $place on it, picture heights
     *
     * @throws CannotFindFaces
     * @throws StillMeasuring  where much is still to be measured, some of which is done now
     */
    public function places(FootageFile $footage, int $from, int $to, array $place, int $frame): ?FacePlaces
    {
        $file = "{$this->stem($footage)}." . substr(hash('sha256', (string) json_encode([$from, $to, $place, $frame])), 0, 16) . self::PLACES;
        $numbers = $this->files->isFile($file) ? json_decode($this->files->get($file), true) : null;
        if (!is_array($numbers)) {
            if (!$this->measureOn($footage, $from, $to, self::AT_ONCE, false)) {
                $known = count($this->file($footage)->frames($from, $to));

                throw new StillMeasuring("Who is who is known once the faces of all frames are measured: {$known} of " . ($to - $from + 1) . ' are.');
            }
            $numbers = FacePlaces::pointedOut($this->known($footage, $from, $to), $place, $frame)?->numbers() ?? [];
            $this->files->replace($file, (string) json_encode($numbers));
        }

        return $numbers === [] ? null : FacePlaces::known($numbers);
    }

    /**
     * Who is seen on the frames of a span, as far as these were measured. Worked out once all are.
     *
     * @return list<SeenPerson>
     */
    public function seen(FootageFile $footage, int $from, int $to): array
    {
        $file = "{$this->stem($footage)}.{$from}-{$to}" . self::SEEN;
        $known = $this->files->isFile($file) ? json_decode($this->files->get($file), true) : null;
        if (is_array($known)) {
            return array_values(array_map(SeenPerson::known(...), $known));
        }
        $seen = SeenPerson::all($this->file($footage)->descriptors($from, $to));
        if ($this->missing($footage, $from, $to, 1) === []) {
            $this->files->replace($file, (string) json_encode(array_map(static fn(SeenPerson $one): array => $one->document(), $seen)));
        }

        return $seen;
    }

    /**
     * Measures some frames of a span; whether all are measured.
     *
     * @param int  $most how many at the most
     * @param bool $wait for another who does so already; otherwise that one's are enough
     */
    public function measureOn(FootageFile $footage, int $from, int $to, int $most, bool $wait): bool
    {
        $this->files->ensureDirectoryExists($this->path);
        if ($this->missing($footage, $from, $to, 1) !== []) {
            FileLock::hold("{$this->stem($footage)}.lock", function () use ($footage, $from, $to, $most): void {
                $missing = $this->missing($footage, $from, $to, $most);
                $missing === [] || $this->measure($footage, $missing);
            }, $wait);
        }

        return $this->missing($footage, $from, $to, 1) === [];
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
        foreach ([FaceFile::PLACES, self::PLACES, self::SEEN, self::FACES] as $kind) {
            $this->files->delete($this->files->glob("{$this->path}/*{$kind}"));
        }
    }

    /** Lets those go that were not used for longest, and those measured in another way, as far as there are too many. */
    private function keepBound(): void
    {
        $sizes = $used = [];
        foreach ($this->files->glob("{$this->path}/*" . self::FACES) as $file) {
            $sizes[$file] = (int) @filesize($file);
            $used[$file] = (int) @filemtime($file);
        }
        asort($used);
        $bytes = array_sum($sizes);
        foreach (array_keys($used) as $file) {
            if ($bytes <= $this->mostBytes) {
                break;
            }
            $stem = substr($file, 0, -strlen(self::FACES));
            $this->files->delete([$file . FaceFile::PLACES, ...$this->files->glob("{$stem}.*" . self::PLACES), ...$this->files->glob("{$stem}.*" . self::SEEN), $file]);
            $bytes -= $sizes[$file];
        }
    }

    private function file(FootageFile $footage): FaceFile
    {
        return new FaceFile($this->stem($footage) . self::FACES);
    }

    private function stem(FootageFile $footage): string
    {
        return "{$this->path}/{$footage->sha256}." . FaceMeter::method();
    }
}
