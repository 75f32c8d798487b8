<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;

/**
 * A surface as it stands before the camera on one frame: where, how large and how it is turned, and how deep each place
 * of the picture lies by that. Lengths in pixels.
 *
 * A depth that was measured is its place, itself and its variance.
 *
 * @phpstan-type Depth array{float, float, float, float}
 */
final readonly class SurfaceView
{
    /** Between the eyes' outer corners, and from them to the mouth, centimetres. */
    private const EYES = 9.0;
    private const MOUTH = 6.8;
    /** Where they are in an outline round a whole face, shares of its height from the top and of its width. */
    private const EYES_AT = 0.31;
    private const MOUTH_AT = 0.78;
    private const EYES_WIDE = 0.68;
    private const ROUNDS = 14;
    /** Rounds in which a turned surface is met by the line of sight. */
    private const SIGHTS = 5;
    private const MOST_YAW = 0.9;
    private const MOST_PITCH = 0.6;
    /** How sure each number is: places and sizes in centimetres and shares, angles in radians. */
    private const KNOWN = [0.3, 0.3, 0.04, 0.06, 0.5, 0.2, 0.08];
    private const GUESSED = [0.8, 0.8, 0.15, 0.06, 0.5, 0.2, 0.15];

    /**
     * @param array{float, float, float, float, float, float, float} $is     x and y of its middle, pixels a centimetre across as it is
     *                                                                       seen, roll, yaw and pitch in radians, pixels a centimetre along
     * @param list<float>                                            $spread of these
     */
    private function __construct(private Surface $surface, private array $is, private array $spread) {}

    /**
     * A head by the middle between its eyes, the middle of its mouth and the distance of the outer corners of its eyes.
     *
     * @param array{float, float} $eyes
     * @param array{float, float} $mouth
     */
    public static function head(array $eyes, array $mouth, float $apart): self
    {
        return self::placed(Surface::head(), $eyes, $mouth, $apart, self::KNOWN);
    }

    /** Of whatever is inside a box: as a head is in an outline round its face. */
    public static function in(Surface $surface, float $x, float $y, float $width, float $height): self
    {
        $eyes = [$x + $width / 2, $y + self::EYES_AT * $height];

        return self::placed($surface, $eyes, [$eyes[0], $y + self::MOUTH_AT * $height], self::EYES_WIDE * $width, self::GUESSED);
    }

    /**
     * @param array{float, float} $eyes
     * @param array{float, float} $mouth
     * @param list<float>         $spread
     */
    private static function placed(Surface $surface, array $eyes, array $mouth, float $apart, array $spread): self
    {
        [$x, $y] = [$mouth[0] - $eyes[0], $mouth[1] - $eyes[1]];
        $across = $apart / self::EYES;
        $along = hypot($x, $y) / self::MOUTH;
        foreach ([$across, $across, $across, 1.0, 1.0, 1.0, $along] as $i => $unit) {
            $spread[$i] *= $unit;
        }

        return new self($surface, [$eyes[0], $eyes[1], $across, atan2(-$x, $y), 0.0, 0.0, $along], $spread);
    }

    /** Pixels a centimetre. */
    public function unit(): float
    {
        return $this->is[2] / cos($this->is[4]);
    }

    /** Towards the camera, from the middle of the eyes. */
    public function depth(float $x, float $y): float
    {
        return $this->on($x, $y)[2] * $this->unit();
    }

    /** @return array{float, float, float} the place of the surface that is seen here, and its depth in the view, centimetres */
    public function on(float $x, float $y): array
    {
        [$ox, $oy, $across, $roll, $yaw, $pitch, $along] = $this->is;
        $unit = $across / cos($yaw);
        [$dx, $dy] = [($x - $ox) / $unit, ($oy - $y) / $unit];
        $u = $dx * cos($roll) - $dy * sin($roll);
        $v = $dx * sin($roll) + $dy * cos($roll);
        $tall = $along / $unit;
        [$cy, $sy, $cp, $sp] = [cos($yaw), sin($yaw), cos($pitch), sin($pitch)];
        [$px, $py] = [$u, $v / $tall];
        for ($k = 0; $k < self::SIGHTS; ++$k) {
            $z = $this->surface->depth($px, $py);
            $px = ($u - $sy * $z) / $cy;
            $py = ($v - $sp * ($cy * $z - $sy * $px)) / $cp / $tall;
        }
        $z = $cy * $this->surface->depth($px, $py) - $sy * $px;

        return [$px, $py, $cp * $z - $sp * $py * $tall];
    }

    /**
     * This view turned and moved to where it explains depths best, which are known but for their scale and a plane;
     * Gauss and Newton's method, held to the view it began as.
     *
     * @param list<Depth>                          $depths
     * @param array{float, float, float, float}    $plane  scale, offset and tilt of the depths against the view, to begin with
     * @param ReliefGauge                          $gauge  what the motions say of scale and tilt
     * @param array{float, float}                  $middle about which the tilt is
     *
     * @return array{self, array{float, float, float, float}} the view, and the plane
     */
    public function fitted(self $began, array $depths, array $plane, ReliefGauge $gauge, array $middle): array
    {
        $view = $this;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            [$a, $b] = $view->normal($depths, $plane, $middle);
            foreach ($began->is as $k => $v) {
                $a[$k][$k] += 1.0 / $began->spread[$k] ** 2;
                $b[$k] += ($v - $view->is[$k]) / $began->spread[$k] ** 2;
            }
            $view->holdShape($a, $b);
            $gauge->holdTo($plane, 7, $a, $b);
            $step = Linear::solve($a, $b);
            if ($step === null) {
                break;
            }
            $is = $view->is;
            foreach ($view->steps() as $k => $most) {
                $is[$k] += max(-9.0 * $most, min(9.0 * $most, $step[$k]));
            }
            $is[4] = max(-self::MOST_YAW, min(self::MOST_YAW, $is[4]));
            $is[5] = max(-self::MOST_PITCH, min(self::MOST_PITCH, $is[5]));
            $view = new self($this->surface, $is, $this->spread);
            foreach ($plane as $k => $v) {
                $plane[$k] = $v + $step[7 + $k];
            }
            $plane[0] = max(0.4, $plane[0]);
        }

        return [$view, $plane];
    }

    /**
     * Adds to the normal equations of a step that a surface is about as high for its width as it was made.
     *
     * @param list<list<float>> $a
     * @param list<float>       $b
     */
    private function holdShape(array &$a, array &$b): void
    {
        [, , $across, , $yaw, , $along] = $this->is;
        $rises = [2 => -1.0 / $across, 4 => -tan($yaw), 6 => 1.0 / $along];
        $sure = 1.0 / $this->surface->varies ** 2;
        foreach ($rises as $k => $u) {
            $b[$k] -= $sure * $u * log($along / $this->unit());
            foreach ($rises as $l => $v) {
                $a[$k][$l] += $sure * $u * $v;
            }
        }
    }

    /**
     * The normal equations of a step, for the seven numbers of the view and the four of the plane.
     *
     * @param list<Depth>                       $depths
     * @param array{float, float, float, float} $plane
     * @param array{float, float}               $middle
     *
     * @return array{list<list<float>>, list<float>}
     */
    private function normal(array $depths, array $plane, array $middle): array
    {
        $own = $missed = [];
        foreach ($depths as $i => [$x, $y, $z]) {
            $own[$i] = $this->depth($x, $y);
            $missed[$i] = $z - $plane[0] * $own[$i] - $plane[1] - $plane[2] * ($x - $middle[0]) - $plane[3] * ($y - $middle[1]);
        }
        $sizes = array_map(abs(...), $missed);
        sort($sizes);
        $spread = max(2.0, 1.5 * $sizes[intdiv(count($sizes), 2)]);
        $rows = [];
        foreach ($this->steps() as $k => $step) {
            $is = $this->is;
            $is[$k] += $step;
            $other = new self($this->surface, $is, $this->spread);
            foreach ($depths as $i => [$x, $y]) {
                $rows[$i][$k] = $plane[0] * ($other->depth($x, $y) - $own[$i]) / $step;
            }
        }
        $a = array_fill(0, 11, array_fill(0, 11, 0.0));
        $b = array_fill(0, 11, 0.0);
        foreach ($depths as $i => [$x, $y, , $variance]) {
            $row = [...$rows[$i], $own[$i], 1.0, $x - $middle[0], $y - $middle[1]];
            // Places that do not fit count less, as by Cauchy's distribution.
            $weight = 1.0 / (1.0 + ($missed[$i] / $spread) ** 2) / ($variance + $spread * $spread);
            foreach ($row as $r => $v) {
                foreach ($row as $c => $w) {
                    $a[$r][$c] += $weight * $v * $w;
                }
                $b[$r] += $weight * $v * $missed[$i];
            }
        }

        return [$a, $b];
    }

    /** @return array{float, float, float, float, float, float, float} by which derivatives are taken, a ninth of the longest step */
    private function steps(): array
    {
        return [1.0, 1.0, 0.02 * $this->is[2], 0.02, 0.02, 0.02, 0.02 * $this->is[6]];
    }
}
