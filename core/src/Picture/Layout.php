<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/** How the three full-size 16-bit planes of a stored frame are to be understood. */
enum Layout: string
{
    /** Y', Cb, Cr. */
    case Yuv = 'yuv';
    /** G', B', R' (the plane order of the open raw format it is stored in). */
    case Rgb = 'rgb';
}
