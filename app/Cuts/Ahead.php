<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Work\PrepareFrames;

/** Has the frames of the first shots of a cut decoded ahead; those of the others are decoded when somebody comes to them. */
final class Ahead
{
    private const SHOTS = 50;

    private int $left = self::SHOTS;

    public function prepare(int $shot): void
    {
        if ($this->left > 0) {
            --$this->left;
            PrepareFrames::dispatch($shot);
        }
    }
}
