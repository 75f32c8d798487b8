<?php

declare(strict_types=1);

namespace App\Models;

/** How far a shot has come in. */
enum ShotState: string
{
    case Reading = 'reading';
    case Ready = 'ready';
    case Failed = 'failed';
}
