<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Normalised;

/**
 * Values round a spot without their grain, carried on inside as a membrane. Grain is what a Gaussian takes away from what a
 * smooth trend leaves: a Gaussian alone would look to one side only at the rim, and bend slopes there. Kernel class.
 */
final readonly class Lighting
{
    /** Sigma, in widths of the ring, of what light is told from grain by on it. */
    private const NEAR = 0.7;

    private Normalised $near;
    private Trend $trend;
    private Membrane $membrane;

    /**
     * @param list<float> $free     1 outside the spot, 0 inside
     * @param list<float> $compared 1 where values tell of the light outside it, 0 elsewhere
     * @param float       $ring     width of the ring
     */
    public function __construct(array $free, array $compared, int $width, int $height, float $ring)
    {
        $this->near = Normalised::over($compared, $width, $height, max(1.0, self::NEAR * $ring));
        $this->trend = new Trend($compared, $width, $height);
        $this->membrane = new Membrane($free, $width, $height);
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    public function of(array $v): array
    {
        $smooth = $this->trend->of($v);
        foreach ($smooth as $i => $x) {
            $v[$i] -= $x;
        }
        foreach ($this->near->blur($v) as $i => $x) {
            $smooth[$i] += $x;
        }

        return $this->membrane->over($smooth);
    }
}
