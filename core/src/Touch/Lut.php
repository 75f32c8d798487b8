<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\LutEffect;

/**
 * A look-up table from a .cube file on code values: one-dimensional tables linearly, three-dimensional ones by
 * tetrahedral interpolation (J. Kasson et al., "Performing color space conversions with three-dimensional linear
 * interpolation", J. Electronic Imaging 4, 1995). Outside the table's domain its edge value holds.
 */
final class Lut implements Kind
{
    public function name(): string
    {
        return 'lut';
    }

    public function parameters(): array
    {
        return [new Asset('file', 'cube')];
    }

    public function isNeutral(array $values): bool
    {
        return $values['file'] === null;
    }

    public function prepare(array $values, Site $site): Effect
    {
        return new LutEffect($site->assets->cube($values['file']));
    }
}
