<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

/** How far along the fall of a light each pixel is: 0 in its shade, 1 in its full strength, and beyond. */
interface Fall
{
    /**
     * @param int $x first pixel of a run in a row
     *
     * @return list<array{int, float, float}> pixels, the value at the first of them, and its change from pixel to pixel
     */
    public function runs(int $x, int $y, int $n): array;
}
