<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;

/**
 * Whether an opening is open: how much of what lies inside it does not look like what is just round it, as teeth and the dark of a
 * mouth do not look like lips. Stated against the present colour round it, so that light may change. Kernel class.
 */
final class OpeningLook
{
    /** Where is looked inside, as shares of the way from the middle to the edge, and how far outside, in pixels. */
    private const INSIDE = [0.15, 0.35, 0.55, 0.75];
    private const ROUND = [2.5, 4.0, 5.5];
    /** What is this share of the usual difference apart is something else. */
    private const APART = 0.5;

    private readonly float $limit;
    private readonly float $usual;

    /** @param list<PathPoint> $points on the start frame, pixels */
    public function __construct(private readonly FrameSource $source, int $start, array $points)
    {
        $told = $this->differences($start, $points);
        $this->limit = self::APART * array_sum($told) / max(1, count($told));
        $this->usual = max(0.05, $this->share($told));
    }

    /**
     * Share of the opening that looks open, against the start frame.
     *
     * @param list<PathPoint> $points pixels
     */
    public function open(int $frame, array $points): float
    {
        return min(1.0, $this->share($this->differences($frame, $points)) / $this->usual);
    }

    /** @param list<float> $differences */
    private function share(array $differences): float
    {
        return count(array_filter($differences, fn(float $d): bool => $d > $this->limit)) / max(1, count($differences));
    }

    /**
     * How far colours inside are from the mean colour round it.
     *
     * @param list<PathPoint> $points
     *
     * @return list<float>
     */
    private function differences(int $frame, array $points): array
    {
        [$xs, $ys] = EdgeSamples::samples($points);
        $rect = Rect::around(min($xs) - 8, min($ys) - 8, max($xs) + 8, max($ys) + 8)->intersect($this->source->frame());
        if ($rect->width < 2 || $rect->height < 2) {
            return [];
        }
        $planes = $this->source->colour($frame, $rect);
        [$nx, $ny] = EdgeSamples::normals($xs, $ys);
        $sum = [0.0, 0.0, 0.0];
        $count = 0;
        foreach ($xs as $k => $x) {
            foreach (self::ROUND as $off) {
                $colour = self::at($planes, $x + $off * $nx[$k], $ys[$k] + $off * $ny[$k]);
                foreach ($colour as $c => $v) {
                    $sum[$c] += $v;
                }
                ++$count;
            }
        }
        [$r, $g, $b] = array_map(static fn(float $v): float => $v / max(1, $count), $sum);
        $cx = array_sum($xs) / count($xs);
        $cy = array_sum($ys) / count($ys);
        $told = [];
        foreach ($xs as $k => $x) {
            foreach (self::INSIDE as $share) {
                $colour = self::at($planes, $cx + $share * ($x - $cx), $cy + $share * ($ys[$k] - $cy));
                $told[] = sqrt(($colour[0] - $r) ** 2 + ($colour[1] - $g) ** 2 + ($colour[2] - $b) ** 2);
            }
        }

        return $told;
    }

    /** @return array{float, float, float} */
    private static function at(Planes $planes, float $x, float $y): array
    {
        $rect = $planes->rect;

        return $planes->at(max($rect->x, min($rect->right() - 1, (int) $x)), max($rect->y, min($rect->bottom() - 1, (int) $y)));
    }
}
