<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use Cossel\Core\Motion\Track;
use Cossel\Core\Outline\Contour;

/**
 * How far a followed lip outline is from the outer border of the lips in the label pictures: the mean distance of points
 * along the outline to the nearest place on the border, pixels of the footage.
 */
final readonly class LipAccuracy
{
    /** Labels inside the outer border: lips, teeth, the mouth's inside. */
    private const INSIDE = [60, 70, 120];
    private const POINTS = 14;

    private function __construct(private string $labels, private int $start) {}

    /** @param string $labels zip of label pictures, one a frame */
    public static function of(string $labels, int $start): self
    {
        return new self($labels, $start);
    }

    /** @return array<string, mixed> an area whose path runs along the border on the start frame, to be followed */
    public function area(): array
    {
        [$border, $width, $height] = $this->border($this->start);
        $cx = array_sum(array_column($border, 0)) / count($border);
        $cy = array_sum(array_column($border, 1)) / count($border);
        // As somebody would draw it: a point at each corner and a few between, by their angle about the middle.
        $at = [];
        for ($k = 0; $k < self::POINTS; ++$k) {
            $angle = 2 * M_PI * $k / self::POINTS;
            $best = -INF;
            foreach ($border as [$x, $y]) {
                // The border's place in this direction of the ellipse that the mouth fills.
                $u = ($x - $cx) / $width;
                $v = ($y - $cy) / $height;
                $along = cos(atan2($v, $u) - $angle);
                if ($along > $best) {
                    $best = $along;
                    $at[$k] = [$x / 720, $y / 720];
                }
            }
        }
        $points = [];
        foreach ($at as $k => [$x, $y]) {
            [$px, $py] = $at[($k + self::POINTS - 1) % self::POINTS];
            [$qx, $qy] = $at[($k + 1) % self::POINTS];
            $corner = $k === 0 || $k === intdiv(self::POINTS, 2);
            $tangent = $corner ? [0.0, 0.0] : [($qx - $px) / 6, ($qy - $py) / 6];
            $points[] = ['at' => [$x, $y], 'in' => [-$tangent[0], -$tangent[1]], 'out' => $tangent];
        }

        return [
            'id' => 'lips',
            'name' => 'Lips',
            'outline' => ['at' => $this->start, 'shapes' => [['id' => 's', 'kind' => 'path', 'points' => $points]]],
            'motion' => ['by' => 'follow', 'model' => 'outline', 'start' => $this->start, 'span' => [0, 83]],
            'live' => ['from' => 0, 'to' => 83],
        ];
    }

    /** @return array<int, float> by frame */
    public function distances(Track $track): array
    {
        $distances = [];
        foreach ($track->steps as $frame => $step) {
            $points = $step->points ?? throw new \LogicException('The track has no points.');
            [$border] = $this->border($frame);
            $sum = 0.0;
            $count = 0;
            foreach ($points as $i => $p) {
                for ($k = 0; $k < 6; ++$k) {
                    [$x, $y] = Contour::on($p, $points[($i + 1) % count($points)], $k / 6);
                    $least = INF;
                    foreach ($border as [$bx, $by]) {
                        $least = min($least, ($bx - $x * 720) ** 2 + ($by - $y * 720) ** 2);
                    }
                    $sum += sqrt($least);
                    ++$count;
                }
            }
            $distances[$frame] = $sum / $count;
        }

        return $distances;
    }

    /** @return array{non-empty-list<array{float, float}>, float, float} places between pixels inside and outside, and how far they reach */
    private function border(int $frame): array
    {
        $image = imagecreatefromstring((string) file_get_contents(sprintf('zip://%s#%04d.png', $this->labels, $frame)));
        if ($image === false) {
            throw new \RuntimeException("There is no label picture of frame {$frame}.");
        }
        $inside = static fn(int $x, int $y): bool => in_array(imagecolorat($image, $x, $y) & 0xFF, self::INSIDE, true);
        $border = [];
        $grid = [];
        for ($y = 0; $y < imagesy($image); ++$y) {
            for ($x = 0; $x < imagesx($image); ++$x) {
                $grid[$y][$x] = $inside($x, $y);
                if ($x > 0 && $grid[$y][$x] !== $grid[$y][$x - 1]) {
                    $border[] = [(float) $x, $y + 0.5];
                }
                if ($y > 0 && $grid[$y][$x] !== $grid[$y - 1][$x]) {
                    $border[] = [$x + 0.5, (float) $y];
                }
            }
        }
        if ($border === []) {
            throw new \RuntimeException("There are no lips on frame {$frame}.");
        }

        return [$border, max(array_column($border, 0)) - min(array_column($border, 0)), max(array_column($border, 1)) - min(array_column($border, 1))];
    }
}
