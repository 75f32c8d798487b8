<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The kinds of motion an outline can be followed with. */
enum Model: string
{
    case Position = 'position';
    case Similarity = 'similarity';
    case Affine = 'affine';
    case Perspective = 'perspective';
    /** As a surface that turns: each place by its depth, which is learnt from the shot. */
    case Relief = 'relief';
    /** Each point of the path on its own, for soft things. */
    case Outline = 'outline';
    /** An iris by its own round edge: where it is and how large, and how far the lids are open. */
    case Iris = 'iris';
}
