<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Touch\Assets;

/** A look-up table and footage to measure touches with: an identity of 17³ entries, and the frame itself. */
final class BenchAssets implements Assets
{
    private ?Cube $cube = null;

    public function __construct(private readonly Frame $frame) {}

    public function cube(string $name): Cube
    {
        return $this->cube ??= Cube::parse(self::identity(17));
    }

    public function frame(string $name, int $number, int $rows): Frame
    {
        return $this->frame;
    }

    private static function identity(int $size): string
    {
        $lines = ["LUT_3D_SIZE {$size}"];
        for ($i = 0; $i < $size ** 3; ++$i) {
            $lines[] = implode(' ', array_map(static fn(int $v): float => $v / ($size - 1), [$i % $size, intdiv($i, $size) % $size, intdiv($i, $size * $size)]));
        }

        return implode("\n", $lines);
    }
}
