<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The frames on which an area acts, with fades inside them. */
final readonly class Live
{
    public function __construct(public int $from, public int $to, public int $fadeIn = 0, public int $fadeOut = 0) {}

    /** 0 outside; rises over the fade, reaching 1 on the first frame after it. */
    public function weight(int $frame): float
    {
        if ($frame < $this->from || $frame > $this->to) {
            return 0.0;
        }
        $in = ($frame - $this->from + 1) / ($this->fadeIn + 1);
        $out = ($this->to - $frame + 1) / ($this->fadeOut + 1);

        return min(1.0, $in, $out);
    }
}
