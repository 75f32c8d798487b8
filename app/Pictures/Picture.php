<?php

declare(strict_types=1);

namespace App\Pictures;

use Cossel\Core\Picture\Rect;

/** An encoded picture and which part of which whole it shows. */
final readonly class Picture
{
    public function __construct(public string $jpeg, public Rect $rect, public Rect $whole) {}
}
