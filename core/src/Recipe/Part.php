<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Parts of a person that something is known about. An area may be called anything else too. */
enum Part: string
{
    case Face = 'face';
    case Skin = 'skin';
    case Neck = 'neck';
    case Iris = 'iris';
    case Eye = 'eye';
    case Lids = 'lids';
    case Whites = 'whites';
    case Lips = 'lips';
    case Teeth = 'teeth';
    case UnderEye = 'under-eye';
    case Forehead = 'forehead';
    case Cheek = 'cheek';
    case Nose = 'nose';
    case Chin = 'chin';
    case Brow = 'brow';
    case Person = 'person';
    case Surroundings = 'surroundings';
}
