<?php

declare(strict_types=1);

namespace App\Pictures;

enum Scope: string
{
    case Waveform = 'waveform';
    case Parade = 'parade';
    case Vectorscope = 'vectorscope';
    case Histogram = 'histogram';
}
