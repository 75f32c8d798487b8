<?php

declare(strict_types=1);

namespace App\Pictures;

/** What the bench can show of a frame. */
enum View: string
{
    case Result = 'result';
    case Original = 'original';
    /** The base alone, without areas and finish. */
    case Base = 'base';
    /** The outline of an area, white on black. */
    case Matte = 'matte';
    /** The result, lightened where the area's matte is. */
    case Tint = 'tint';
    /** The result inside an area's matte, the rest grey. */
    case Picked = 'picked';
    /** What the treatment changed, amplified, around mid grey. */
    case Difference = 'difference';
    /** The result without one area. */
    case Without = 'without';

    /** Whether an area's matte is to be seen in it. */
    public function showsMatte(): bool
    {
        return in_array($this, [self::Matte, self::Tint, self::Picked], true);
    }
}
