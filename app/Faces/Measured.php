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
        $descriptors = array_filter(array_map(static fn(Mesh $face): ?string => $face->descriptor?->bytes(), $this->faces));
        $isDescribed = count($descriptors) === count($this->faces);

        return pack('v4', count($this->faces), $isDescribed ? count($descriptors) : 0, $this->across, $this->down)
            . implode('', array_map(static fn(Mesh $face): string => $face->bytes(), $this->faces))
            . ($isDescribed ? implode('', $descriptors) : '')
            . $this->cells;
    }
}
