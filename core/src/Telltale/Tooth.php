<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\LabPlanes;

/** What looks like a tooth, in Oklab: neither as dark as the cavity nor as red for its yellow as lips, gums and tongue. */
final class Tooth
{
    public static function at(LabPlanes $lab, int $i): bool
    {
        return $lab->l[$i] > 0.4 && $lab->a[$i] - 0.25 * $lab->b[$i] < 0.035;
    }
}
