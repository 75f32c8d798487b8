<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The kinds of motion a region can be followed with. */
enum Model: string
{
    case Position = 'position';
    case Similarity = 'similarity';
}
