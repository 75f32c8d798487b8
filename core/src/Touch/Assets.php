<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Picture\Frame;

/** Where touches get the files from that a recipe names. */
interface Assets
{
    /** @throws MissingAsset */
    public function cube(string $name): Cube;

    /**
     * A frame of other footage, at the stored size next to this height.
     *
     * @throws MissingAsset
     */
    public function frame(string $name, int $number, int $rows): Frame;
}
