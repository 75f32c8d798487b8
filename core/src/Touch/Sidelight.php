<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Touch\Internal\LatticeFall;
use Cossel\Core\Touch\Internal\PlaneFall;
use Cossel\Core\Touch\Internal\SidelightEffect;

/**
 * Light that falls across the area: linear light x 2^(stops x w). The fall runs along a direction in the area's own
 * coordinates (-1 to 1 across its extent), so it turns, moves and grows with it. With u the position along the
 * direction, 1 on the side the light comes from, t = (u - position) / width / 2 + 1/2 cut to 0..1 and
 * w = t + softness (t² (3 - 2t) - t). Where the area lies on a relief, u is by how much the surface faces the direction: the
 * component of its unit normal, so light falls on a head and not on a disc, and turns with it.
 */
final class Sidelight implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'sidelight';
    }

    public function parameters(): array
    {
        return [
            new Number('stops', -4, 4, 0, 'stops'),
            new Number('direction', -180, 180, 0, '°'),
            new Number('position', -1, 1, 0),
            new Number('width', 0.05, 2, 1),
            new Number('softness', 0, 1, 1),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['stops'] === 0.0;
    }

    public function prepare(array $values, Site $site): Effect
    {
        $gains = [];
        for ($i = 0; $i <= 256; ++$i) {
            $t = $i / 256;
            $gains[] = 2 ** ($values['stops'] * ($t + $values['softness'] * ($t * $t * (3 - 2 * $t) - $t)));
        }

        $transfer = $site->transfer();
        if ($transfer === Transfer::Bt1886) {
            // A power of the code values: a gain of light is one of them, too.
            $gains = array_map(static fn(float $gain): float => $gain ** (1 / Transfer::GAMMA), $gains);
            $transfer = null;
        }

        $fall = $site->surface === null ? self::across($values, $site) : self::over($site->surface, $values, $site);

        return new SidelightEffect($gains, $fall, $transfer);
    }

    /** @param array<string, float> $values */
    private static function over(TurnedSurface $surface, array $values, Site $site): LatticeFall
    {
        $angle = deg2rad($values['direction']);
        [$cos, $sin] = [cos($angle), sin($angle)];
        $rows = $site->rows();

        return LatticeFall::over($site->bounds(), static function (float $x, float $y) use ($surface, $cos, $sin, $values, $rows): float {
            [$u, $v] = $surface->normal($x / $rows, $y / $rows);

            return ($u * $cos + $v * $sin - $values['position']) / $values['width'] / 2 + 0.5;
        });
    }

    /**
     * How far along the fall a pixel is, as t = u0 + ux x + uy y.
     *
     * @param array<string, float> $values
     */
    private static function across(array $values, Site $site): PlaneFall
    {
        $extent = $site->extent();
        $angle = deg2rad($values['direction']);
        $toLocal = Matrix::of([
            1 / $extent->halfWidth,
            0,
            -$extent->x / $extent->halfWidth,
            0,
            1 / $extent->halfHeight,
            -$extent->y / $extent->halfHeight,
            0,
            0,
            1,
        ])
            ->times($extent->motion->affineAt($extent->x, $extent->y)->inverse());
        $at = static function (float $x, float $y) use ($toLocal, $angle, $values, $site): float {
            [$a, $b] = $toLocal->apply($x / $site->rows(), $y / $site->rows());

            return ($a * cos($angle) + $b * sin($angle) - $values['position']) / $values['width'] / 2 + 0.5;
        };
        $origin = $at(0, 0);

        return new PlaneFall($at(1, 0) - $origin, $at(0, 1) - $origin, $origin);
    }
}
