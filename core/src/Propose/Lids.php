<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;

/**
 * The opening of an eye round an iris that was found: of all lenses between two cubic lids the one that best parts what looks like white or
 * iris from what looks like skin or lashes, held to how eyes are. So neither lid needs an edge everywhere: where a dark iris meets
 * dark skin, the white beside it tells. Kernel class; places are in radii of the iris from its centre, along the eye and across it.
 */
final class Lids
{
    /** How wide eyes are, in radii, how much that differs, and what it costs to be otherwise, in places. */
    private const WIDE = 4.5;
    private const WIDER = 1.0;
    private const HIGH = 1.2;
    private const ODD = 3.0;
    /** How much higher or lower two eyes stand open, in radii. */
    private const ALIKE = 0.15;
    private const AS_WIDE = 0.4;
    /** What is begun with: eyes that look ahead, to the left, to the right. */
    private const STARTS = [
        [-2.1, 2.1, 0.1, 0.1, 0.8, 0.8, 0.5, 0.5],
        [-1.5, 2.6, 0.1, 0.1, 0.8, 0.8, 0.5, 0.5],
        [-2.6, 1.5, 0.1, 0.1, 0.8, 0.8, 0.5, 0.5],
    ];
    /** Numbers of a lens that change together: each alone, all along, all across, one lid, both halves. */
    private const WAYS = [
        [0 => 1], [1 => 1], [2 => 1], [3 => 1], [4 => 1], [5 => 1], [6 => 1], [7 => 1],
        [0 => 1, 1 => 1], [0 => -1, 1 => 1], [2 => 1, 3 => 1], [2 => 1, 3 => -1],
        [4 => 1, 5 => 1], [6 => 1, 7 => 1], [4 => 1, 5 => -1], [6 => 1, 7 => -1],
        [2 => 1, 3 => 1, 4 => 1, 5 => 1, 6 => -1, 7 => -1],
    ];

    /**
     * @param list<float> $lens left and right corner along, the same across, how high the upper lid stands over the line
     *                          between them in its first and its second half, how low the lower
     * @param float       $sure how well it parts them, of what it could at most
     */
    private function __construct(public readonly array $lens, public readonly float $sure, private readonly EyeCells $cells) {}

    /**
     * @param float     $tilt  of the line between the corners, radians clockwise
     * @param self|null $other the other eye's, where these should be like them
     */
    public static function round(FrameSource $source, int $frame, IrisCircle $iris, float $tilt, ?self $other = null): self
    {
        $cells = EyeCells::round($source, $frame, $iris, $tilt, $other?->cells);
        [$lens, $held] = self::parted($cells->says(), $other);
        $area = ($lens[1] - $lens[0]) * ($lens[4] + $lens[5] + $lens[6] + $lens[7]) / 3 * EyeCells::COLUMNS * EyeCells::ROWS;

        return new self($lens, $held / max(1.0, M_PI_2 * $area), $cells);
    }

    /** How unlike other eyes' its width and height are: 0 for an ordinary one. */
    public function odd(): float
    {
        return abs(log(($this->lens[1] - $this->lens[0]) / self::WIDE)) + abs(log(max(0.1, $this->height()) / self::HIGH));
    }

    /** How high the opening is in the middle, radii. */
    public function height(): float
    {
        return ($this->lens[4] + $this->lens[5] + $this->lens[6] + $this->lens[7]) / 2;
    }

    /** By how much others differ from these: in height, or half as much in where their corners are; radii. */
    public function unlike(self $other): float
    {
        return max(
            abs($this->height() - $other->height()),
            abs($this->lens[0] - $other->lens[0]) / 2,
            abs($this->lens[1] - $other->lens[1]) / 2,
        );
    }

    /** Whether the middle of the iris lies between the lids, or hardly outside. */
    public function holdsIris(): bool
    {
        $t = -$this->lens[0] / ($this->lens[1] - $this->lens[0]);

        return $t > 0.1 && $t < 0.9 && $this->at($t, true)[1] < 0.15 && $this->at($t, false)[1] > -0.15;
    }

    /**
     * A place on a lid.
     *
     * @param float $t 0 at the corner on the left of the picture, 1 at the other
     *
     * @return array{float, float} along and across, radii from the iris
     */
    public function at(float $t, bool $upper): array
    {
        [$left, $right, $leftV, $rightV, $up1, $up2, $low1, $low2] = $this->lens;
        $s = 1 - $t;
        $bulge = 4 * $t * $s * ($upper ? -($s * $up1 + $t * $up2) : $s * $low1 + $t * $low2);

        return [$s * $left + $t * $right, $s * $leftV + $t * $rightV + $bulge];
    }

    /**
     * The lens that parts them best: steps in one of its numbers after the other, halved each time none helps.
     *
     * @param list<list<float>> $says
     *
     * @return array{non-empty-list<float>, float} the lens, and how well it parts them
     */
    private static function parted(array $says, ?self $other): array
    {
        $sums = array_map(static function (array $column): array {
            $sum = [0.0];
            foreach ($column as $v) {
                $sum[] = end($sum) + $v;
            }

            return $sum;
        }, $says);
        $best = [self::STARTS[0], -INF];
        foreach (self::STARTS as $lens) {
            $gain = self::held($sums, $lens) - self::unlikely($lens, $other);
            for ($step = 0.4; $step > 0.012; $step /= 2) {
                do {
                    $before = $gain;
                    foreach (self::WAYS as $way) {
                        foreach ([$step, -$step] as $by) {
                            $changed = $lens;
                            foreach ($way as $i => $share) {
                                $changed[$i] += $by * $share;
                            }
                            $told = self::held($sums, $changed) - self::unlikely($changed, $other);
                            if ($told > $gain) {
                                [$lens, $gain] = [$changed, $told];
                            }
                        }
                    }
                } while ($gain > $before + 1e-6);
            }
            if ($gain > $best[1]) {
                $best = [$lens, $gain];
            }
        }

        return [$best[0], self::held($sums, $best[0])];
    }

    /**
     * What a lens holds, less what it does not look like.
     *
     * @param list<list<float>> $sums says, summed down each column
     * @param list<float>       $lens
     */
    private static function held(array $sums, array $lens): float
    {
        [$left, $right, $leftV, $rightV, $up1, $up2, $low1, $low2] = $lens;
        $width = $right - $left;
        if ($left > -1.0 || $right < 1.0 || min($up1, $up2) < 0.0 || min($low1, $low2) < -0.3) {
            return -INF;
        }
        $gain = 0.0;
        $rows = EyeCells::rows();
        $first = max(0, (int) (($left + EyeCells::ALONG) * EyeCells::COLUMNS));
        for ($i = $first, $n = count($sums); $i < $n; ++$i) {
            $t = (EyeCells::along($i) - $left) / $width;
            if ($t <= 0.0) {
                continue;
            }
            if ($t >= 1.0) {
                break;
            }
            $s = 1 - $t;
            $line = $s * $leftV + $t * $rightV;
            $bulge = 4 * $t * $s;
            $a = ($line - $bulge * ($s * $up1 + $t * $up2) + EyeCells::ACROSS) * EyeCells::ROWS;
            $b = ($line + $bulge * ($s * $low1 + $t * $low2) + EyeCells::ACROSS) * EyeCells::ROWS;
            if ($b <= $a) {
                continue;
            }
            $a = $a < 0.0 ? 0.0 : ($a > $rows - 0.001 ? $rows - 0.001 : $a);
            $b = $b < 0.0 ? 0.0 : ($b > $rows - 0.001 ? $rows - 0.001 : $b);
            $column = $sums[$i];
            $k = (int) $b;
            $gain += $column[$k] + ($b - $k) * ($column[$k + 1] - $column[$k]);
            $k = (int) $a;
            $gain -= $column[$k] + ($a - $k) * ($column[$k + 1] - $column[$k]);
        }

        return $gain;
    }

    /**
     * What speaks against a lens: eyes are this wide against the iris, their corners level, and one is like the other.
     *
     * @param list<float> $lens
     */
    private static function unlikely(array $lens, ?self $other): float
    {
        [$left, $right, $leftV, $rightV, $up1, $up2, $low1, $low2] = $lens;
        $width = $right - $left;
        $odd = (($width - self::WIDE) / self::WIDER) ** 2 + (($leftV - $rightV) / 0.5) ** 2;
        $odd += (($up1 - $up2) / 0.8) ** 2 + (($low1 - $low2) / 0.6) ** 2;

        if ($other !== null) {
            // The other eye is this one in a mirror, as high; as both look the same way, as much is seen of it on either side of the iris.
            $odd += (($left - $other->lens[0]) ** 2 + ($right - $other->lens[1]) ** 2) / self::AS_WIDE ** 2;
            [, , , , $otherUp2, $otherUp1, $otherLow2, $otherLow1] = $other->lens;
            $odd += (($up1 - $otherUp1) ** 2 + ($up2 - $otherUp2) ** 2) / self::ALIKE ** 2;
            $odd += (($low1 - $otherLow1) ** 2 + ($low2 - $otherLow2) ** 2) / self::ALIKE ** 2;
        }

        return self::ODD * $odd;
    }
}
