<?php

declare(strict_types=1);

namespace App\Models;

/** How far a shot has come in. */
enum ShotState: string
{
    case Reading = 'reading';
    case Ready = 'ready';
    /** Something is missing of it or torn; the user has to say whether it is used. */
    case Doubtful = 'doubtful';
    case Failed = 'failed';
    /** The cut asks for footage that is not here. */
    case Missing = 'missing';
}
