<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Where a touch acts: with the area's matte, or with what the matte leaves. */
enum Side: string
{
    case Inside = 'inside';
    case Outside = 'outside';
}
