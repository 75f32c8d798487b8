<?php

declare(strict_types=1);

namespace App\Faces;

use Cossel\Core\Face\Mesh;

/** What was measured of the people on one frame. */
final readonly class Measured
{
    /**
     * @param list<Mesh> $faces
     * @param string     $cells of the matte of all people, packed
     */
    public function __construct(public array $faces, private int $across, private int $down, private string $cells) {}

    /** As it is kept. */
    public function bytes(): string
    {
        return pack('v3', count($this->faces), $this->across, $this->down)
            . implode('', array_map(static fn(Mesh $face): string => $face->bytes(), $this->faces))
            . $this->cells;
    }
}
