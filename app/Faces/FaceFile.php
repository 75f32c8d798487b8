<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FileLock;
use App\Footage\StorageFull;
use Cossel\Core\Face\Descriptor;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\PeopleMatte;

/**
 * What was measured of the people of one footage: for each frame, in the order they were measured, how many faces there are, how large the
 * matte is, the faces, and the matte, packed. A second file tells where each frame stands, so that one is read at once, however many there are.
 * What a process that was killed left half written counts for nothing.
 */
final readonly class FaceFile
{
    /** Bytes before the faces of a frame: their number, how many descriptors (as many, or none), and cells across and down. */
    private const HEAD = 8;
    /** Bytes for each frame in the second file: where it begins, and its bytes; 0 where it was not measured. */
    private const ENTRY = 12;
    public const PLACES = '.at';

    public function __construct(private string $path) {}

    /** @return array<int, true> frames of a span that were measured */
    public function frames(int $from, int $to): array
    {
        return array_map(static fn(): bool => true, $this->places($from, $to));
    }

    /**
     * @return array<int, list<Mesh>> by frame; those that were not measured are left out
     */
    public function faces(int $from, int $to): array
    {
        $faces = [];
        foreach ($this->records($from, $to) as $frame => $bytes) {
            $head = self::head($bytes);
            $meshes = array_map(Mesh::read(...), self::parts($bytes, self::HEAD, $head['count'], Mesh::BYTES));
            foreach (self::described($bytes, $head) as $k => $descriptor) {
                $meshes[$k] = $meshes[$k]->described($descriptor);
            }
            $faces[$frame] = $meshes;
        }

        return $faces;
    }

    public function people(int $frame): ?PeopleMatte
    {
        foreach ($this->records($frame, $frame) as $bytes) {
            $head = self::head($bytes);
            $before = self::HEAD + $head['count'] * Mesh::BYTES + $head['described'] * Descriptor::NUMBERS;
            $cells = gzuncompress(substr($bytes, $before), $head['across'] * $head['down']);

            return PeopleMatte::of($head['across'], $head['down'], (string) $cells);
        }

        return null;
    }

    /**
     * What faces look like, where that was measured.
     *
     * @return array<int, list<Descriptor>> by frame
     */
    public function descriptors(int $from, int $to): array
    {
        $descriptors = [];
        foreach ($this->records($from, $to) as $frame => $bytes) {
            $its = self::described($bytes, self::head($bytes));
            $its === [] || $descriptors[$frame] = array_values($its);
        }

        return $descriptors;
    }

    /** @param array<int, Measured> $measured by frame */
    public function add(array $measured): void
    {
        is_dir(dirname($this->path)) || @mkdir(dirname($this->path), 0o777, true);
        FileLock::hold("{$this->path}.lock", function () use ($measured): void {
            // Places without the file they are of tell nothing.
            is_file($this->path) || @unlink($this->path . self::PLACES);
            [$file, $places] = [@fopen($this->path, 'ab'), @fopen($this->path . self::PLACES, 'cb')];
            if ($file === false || $places === false) {
                throw StorageFull::or("{$this->path} cannot be written.");
            }
            $entries = [];
            $isWhole = true;
            foreach ($measured as $frame => $one) {
                $bytes = $one->bytes();
                $entries[$frame] = pack('PV', fstat($file)['size'] ?? 0, strlen($bytes));
                $isWhole = $isWhole && fwrite($file, $bytes) === strlen($bytes) && fflush($file);
            }
            // What the second file tells of is there, whatever happens.
            $isWhole = $isWhole && fsync($file);
            foreach ($isWhole ? $entries : [] as $frame => $entry) {
                $isWhole = fseek($places, $frame * self::ENTRY) === 0 && fwrite($places, $entry) === self::ENTRY && $isWhole;
            }
            if (!$isWhole) {
                throw StorageFull::or("{$this->path} cannot be written.");
            }
            fclose($file);
            fclose($places);
        });
    }

    /** @return array{count: int, described: int, across: int, down: int} */
    private static function head(string $bytes): array
    {
        /** @var array{count: int, described: int, across: int, down: int} $head */
        $head = unpack('vcount/vdescribed/vacross/vdown', $bytes);

        return $head;
    }

    /**
     * @param array{count: int, described: int, across: int, down: int} $head
     *
     * @return array<int, Descriptor> by the place of the face
     */
    private static function described(string $bytes, array $head): array
    {
        $all = self::parts($bytes, self::HEAD + $head['count'] * Mesh::BYTES, $head['described'], Descriptor::NUMBERS);

        return array_map(Descriptor::of(...), array_filter($all, static fn(string $one): bool => trim($one, "\0") !== ''));
    }

    /**
     * @param positive-int $size of each
     *
     * @return list<string>
     */
    private static function parts(string $bytes, int $from, int $count, int $size): array
    {
        return $count === 0 ? [] : str_split(substr($bytes, $from, $count * $size), $size);
    }

    /**
     * @return \Generator<int, string> bytes by frame, rising
     */
    private function records(int $from, int $to): \Generator
    {
        $places = $this->places($from, $to);
        $file = $places === [] ? false : @fopen($this->path, 'rb');
        foreach ($file === false ? [] : $places as $frame => [$at, $length]) {
            fseek($file, $at);
            $bytes = (string) fread($file, max(1, $length));
            if (strlen($bytes) === $length) {
                yield $frame => $bytes;
            }
        }
        $file === false || fclose($file);
    }

    /** @return array<int, array{int, int}> where frames of a span begin, and how many bytes they have */
    private function places(int $from, int $to): array
    {
        clearstatcache(true, $this->path);
        $size = (int) @filesize($this->path);
        $bytes = (string) @file_get_contents($this->path . self::PLACES, false, null, $from * self::ENTRY, max(0, $to - $from + 1) * self::ENTRY);
        $places = [];
        foreach (str_split($bytes, self::ENTRY) as $k => $entry) {
            if (strlen($entry) < self::ENTRY) {
                break;
            }
            /** @var array{at: int, length: int} $place */
            $place = unpack('Pat/Vlength', $entry);
            if ($place['length'] >= self::HEAD && $place['at'] + $place['length'] <= $size) {
                $places[$from + $k] = [$place['at'], $place['length']];
            }
        }

        return $places;
    }
}
