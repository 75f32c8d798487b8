<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\Rect;

/** What was measured of an area, a value for each block. */
final readonly class Blocked
{
    /** @param list<float> $v */
    public function __construct(public Blocks $blocks, public array $v) {}

    /** @return list<float> a value for each pixel of a rectangle inside the area */
    public function over(Rect $rect): array
    {
        return $this->blocks->over($this->v, $rect);
    }
}
