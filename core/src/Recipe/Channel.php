<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A part of a motion that can be used or dropped. */
enum Channel: string
{
    case Position = 'position';
    case Rotation = 'rotation';
    case Scale = 'scale';
    case Shear = 'shear';
    case Perspective = 'perspective';
}
