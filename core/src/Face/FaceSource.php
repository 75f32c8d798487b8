<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The faces on the frames of footage, wherever they are kept or measured. */
interface FaceSource
{
    /** @return array{int, int} the first and the last frame it tells of */
    public function span(): array;

    /** @return list<Mesh> none where nobody is seen */
    public function on(int $frame): array;
}
