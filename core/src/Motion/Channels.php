<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Motion;

/** What of a motion an area goes along with. */
final class Channels
{
    /**
     * The motion without the channels that are not used, about the pivot. The linear part there is taken apart into a
     * turn, a uniform scale and what is left of shear (polar decomposition).
     */
    public static function used(Motion $motion, Pose $pose): Matrix
    {
        if (array_diff(array_column(Motion::WHOLE, 'value'), array_column($motion->use, 'value')) === []) {
            return $pose->motion;
        }
        [$px, $py] = $motion->pivot;
        // Without the relief, it goes as the surface does at the pivot.
        $whole = $pose->parallax === null ? $pose->motion : $pose->affineAt($px, $py);
        [$x, $y] = $whole->apply($px, $py);
        $local = $whole->affineAt($px, $py);
        $turn = $motion->uses(Channel::Rotation) ? $local->turn() : 0.0;
        $grown = $pose->parallax === null ? $local->scale() : $pose->size();
        $scale = $motion->uses(Channel::Scale) ? $grown : 1.0;
        [$dx, $dy] = $motion->uses(Channel::Position) ? [$x - $px, $y - $py] : [0.0, 0.0];
        $kept = Matrix::about($px, $py, $turn, $scale, $scale, $dx, $dy);
        if ($motion->uses(Channel::Shear)) {
            $plain = Matrix::about($px, $py, $local->turn(), $local->scale(), $local->scale(), $x - $px, $y - $py);
            $kept = $kept->times($plain->inverse()->times($motion->uses(Channel::Perspective) ? $whole : $local));
        }

        return $kept;
    }
}
