<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Rect;

/** A touch that has to see its area on a frame, once, before it can act on any part of it. */
interface Survey
{
    /** What it has to be shown, as if the picture had no edges. */
    public function sees(): Rect;

    /** The side in pixels of the blocks whose means tell it enough; 1 where it has to see every pixel. */
    public function block(): int;

    /** What acts, once it has seen that. */
    public function effect(AreaPicture $picture): Effect;

    /** Where the picture has to be right for that to act over a rectangle, as if the picture had no edges. */
    public function needs(Rect $rect): Rect;
}
