<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;

/**
 * The depths of a view, drawn to what was measured at places: a Gaussian process about the view that is smooth over the
 * surface (C. Rasmussen and C. Williams, "Gaussian Processes for Machine Learning", 2006, section 2.2).
 *
 * @phpstan-import-type Depth from SurfaceView
 */
final readonly class DepthField
{
    /** How far a face may depart from the surface, over which lengths that is alike, and how much flatter or higher it may be in all. */
    private const DEPARTS = 0.2;
    private const ALIKE = 2.0;
    private const HIGHER = 0.1;

    /**
     * @param list<array{float, float, float}> $places on the surface, with their depth
     * @param list<float>                      $pulls
     */
    private function __construct(private SurfaceView $view, private array $places, private array $pulls) {}

    public static function of(SurfaceView $view): self
    {
        return new self($view, [], []);
    }

    /** @param list<Depth> $depths */
    public static function drawn(SurfaceView $view, array $depths): self
    {
        $unit = $view->unit();
        $places = array_map(static fn(array $d): array => $view->on($d[0], $d[1]), $depths);
        $a = $b = [];
        foreach ($depths as $i => [, , $z, $variance]) {
            foreach ($places as $j => $place) {
                $a[$i][$j] = self::together($places[$i], $place);
            }
            $a[$i][$i] += $variance / $unit ** 2;
            $b[$i] = $z / $unit - $places[$i][2];
        }

        return new self($view, $places, Linear::solve($a, $b) ?? array_fill(0, count($places), 0.0));
    }

    /** Pixels. */
    public function depth(float $x, float $y): float
    {
        $on = $this->view->on($x, $y);
        $z = $on[2];
        foreach ($this->places as $i => $place) {
            $z += $this->pulls[$i] * self::together($on, $place);
        }

        return $z * $this->view->unit();
    }

    /**
     * How two places depart together, square centimetres.
     *
     * @param array{float, float, float} $p
     * @param array{float, float, float} $q
     */
    private static function together(array $p, array $q): float
    {
        $square = ($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2;

        return self::DEPARTS ** 2 * exp(-$square / (2.0 * self::ALIKE ** 2)) + self::HIGHER ** 2 * $p[2] * $q[2];
    }
}
