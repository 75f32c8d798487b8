<?php

declare(strict_types=1);

namespace App\Faces;

use App\Footage\FileLock;
use App\Footage\StorageFull;
use Cossel\Core\Face\Mesh;

/**
 * The measured faces of one footage in one file: for each frame, in the order they were measured, its number, how many faces there are,
 * and these. What a process that was killed left half written at its end is written over.
 */
final readonly class FaceFile
{
    private const HEAD = 6;

    public function __construct(private string $path) {}

    /** @return array<int, true> frames that were measured */
    public function frames(): array
    {
        $frames = [];
        foreach ($this->records(false) as $frame => $_) {
            $frames[$frame] = true;
        }

        return $frames;
    }

    /**
     * @return array<int, list<Mesh>> by frame; those that were not measured are left out
     */
    public function faces(int $from, int $to): array
    {
        $faces = [];
        foreach ($this->records(true) as $frame => $bytes) {
            if ($frame >= $from && $frame <= $to) {
                $faces[$frame] = array_map(Mesh::read(...), $bytes === '' ? [] : str_split($bytes, Mesh::BYTES));
            }
        }
        ksort($faces);

        return $faces;
    }

    /** @param array<int, list<Mesh>> $faces by frame */
    public function add(array $faces): void
    {
        is_dir(dirname($this->path)) || @mkdir(dirname($this->path), 0o777, true);
        FileLock::hold("{$this->path}.lock", function () use ($faces): void {
            $file = @fopen($this->path, 'c+b');
            if ($file === false) {
                throw StorageFull::or("{$this->path} cannot be written.");
            }
            fseek($file, $this->whole());
            foreach ($faces as $frame => $all) {
                fwrite($file, pack('Vv', $frame, count($all)) . implode('', array_map(static fn(Mesh $face): string => $face->bytes(), $all)));
            }
            ftruncate($file, max(0, (int) ftell($file)));
            fclose($file);
        });
    }

    /** How many of its bytes are whole records. */
    private function whole(): int
    {
        $records = $this->records(false);
        while ($records->valid()) {
            $records->next();
        }

        return $records->getReturn();
    }

    /**
     * @param bool $whole whether the meshes are read too
     *
     * @return \Generator<int, string, mixed, int> bytes of the meshes by frame; returns where the last whole record ends
     */
    private function records(bool $whole): \Generator
    {
        $file = @fopen($this->path, 'rb');
        if ($file === false) {
            return 0;
        }
        $size = (int) (fstat($file)['size'] ?? 0);
        $at = 0;
        while ($at + self::HEAD <= $size) {
            fseek($file, $at);
            /** @var array{frame: int, count: int} $head */
            $head = unpack('Vframe/vcount', (string) fread($file, self::HEAD));
            $bytes = $head['count'] * Mesh::BYTES;
            if ($at + self::HEAD + $bytes > $size) {
                break;
            }
            yield $head['frame'] => $whole && $bytes > 0 ? (string) fread($file, $bytes) : '';
            $at += self::HEAD + $bytes;
        }
        fclose($file);

        return $at;
    }
}
