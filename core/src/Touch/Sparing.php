<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Rect;

/** A touch that leaves most of a usual frame as it is, and can tell so quickly. */
interface Sparing extends Effect
{
    /** @return list<Rect> outside these it changes nothing of an untreated frame, not by one code value */
    public function doubtful(Frame $frame): array;
}
