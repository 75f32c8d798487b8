<?php

declare(strict_types=1);

namespace App\Faces;

use Cossel\Core\Face\Descriptor;
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
        $descriptors = array_map(static fn(Mesh $face): string => $face->descriptor?->bytes() ?? str_repeat("\0", Descriptor::NUMBERS), $this->faces);
        $isDescribed = array_filter($this->faces, static fn(Mesh $face): bool => $face->descriptor !== null) !== [];

        return pack('v4', count($this->faces), $isDescribed ? count($descriptors) : 0, $this->across, $this->down)
            . implode('', array_map(static fn(Mesh $face): string => $face->bytes(), $this->faces))
            . ($isDescribed ? implode('', $descriptors) : '')
            . $this->cells;
    }
}
