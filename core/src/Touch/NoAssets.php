<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Picture\Frame;

/** For recipes without files of their own. */
final readonly class NoAssets implements Assets
{
    public function cube(string $name): Cube
    {
        throw MissingAsset::named($name);
    }

    public function frame(string $name, int $number, int $rows): Frame
    {
        throw MissingAsset::named($name);
    }
}
