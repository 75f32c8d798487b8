<?php

declare(strict_types=1);

namespace App\Measuring;

use Cossel\Core\Motion\Similarity;
use Cossel\Core\Motion\Track;

/**
 * How far a follow is from the truth: the face points of the start frame carried by the track, against where they
 * really are, RMS over all points and frames, in percent of the face's width (1.55 x the distance of the outer eye
 * corners on the start frame). The floor is what is left when the same model is fitted to the truth itself.
 */
final readonly class FollowAccuracy
{
    /** @param list<array<string, mixed>> $frames of the truth file */
    private function __construct(private array $frames, private int $start, private int $height) {}

    public static function of(string $truthFile, int $start): self
    {
        $truth = json_decode((string) file_get_contents($truthFile), true, flags: JSON_THROW_ON_ERROR);

        return new self($truth['frame'], $start, $truth['height']);
    }

    /** @return array<string, mixed> an ordinary outline over the face on the start frame, to be followed */
    public function area(): array
    {
        $t = $this->frames[$this->start];
        $h = $this->height;
        $width = $this->faceWidth();
        $along = hypot($t['forehead']['x'] - $t['chin']['x'], $t['forehead']['y'] - $t['chin']['y']);

        return [
            'id' => 'face',
            'name' => 'Face',
            'outline' => ['at' => $this->start, 'shapes' => [[
                'id' => 's',
                'kind' => 'ellipse',
                'centre' => [($t['forehead']['x'] + $t['chin']['x']) / 2 / $h, ($t['forehead']['y'] + $t['chin']['y']) / 2 / $h],
                'radii' => [0.475 * $width / $h, 0.51 * $along / $h],
            ]]],
            'motion' => ['by' => 'follow', 'start' => $this->start, 'span' => [0, count($this->frames) - 1]],
            'live' => ['from' => 0, 'to' => count($this->frames) - 1],
        ];
    }

    /** Percent of the face's width. */
    public function error(Track $track): float
    {
        $from = $this->points($this->start);

        return $this->rms(function (int $frame) use ($track, $from): array {
            $motion = $track->matrix($frame)->times($track->matrix($this->start)->inverse());

            return array_map(fn(array $p): array => array_map(fn(float $v): float => $v * $this->height, $motion->apply($p[0] / $this->height, $p[1] / $this->height)), $from);
        });
    }

    /** Percent of the face's width. */
    public function floor(): float
    {
        $from = $this->points($this->start);

        return $this->rms(function (int $frame) use ($from): array {
            $motion = Similarity::fit($from, $this->points($frame)) ?? throw new \LogicException('The truth has too few points.');

            return array_map(static fn(array $p): array => $motion->apply(...$p), $from);
        });
    }

    /** @param callable(int): list<array{float, float}> $carried */
    private function rms(callable $carried): float
    {
        $sum = 0.0;
        $count = 0;
        foreach (array_keys($this->frames) as $frame) {
            $truth = $this->points($frame);
            foreach ($carried($frame) as $i => [$x, $y]) {
                $sum += ($x - $truth[$i][0]) ** 2 + ($y - $truth[$i][1]) ** 2;
                ++$count;
            }
        }

        return 100 * sqrt($sum / $count) / $this->faceWidth();
    }

    private function faceWidth(): float
    {
        $t = $this->frames[$this->start];

        return 1.55 * hypot($t['eye_l']['outer']['x'] - $t['eye_r']['outer']['x'], $t['eye_l']['outer']['y'] - $t['eye_r']['outer']['y']);
    }

    /** @return list<array{float, float}> eye corners, nose tip, mouth corners, forehead, cheeks; pixels */
    private function points(int $frame): array
    {
        $t = $this->frames[$frame];

        return array_map(
            static fn(array $p): array => [(float) $p['x'], (float) $p['y']],
            [$t['eye_l']['inner'], $t['eye_l']['outer'], $t['eye_r']['inner'], $t['eye_r']['outer'], $t['nose_tip'], $t['mouth_corner_l'], $t['mouth_corner_r'], $t['forehead'], $t['cheek_l'], $t['cheek_r']],
        );
    }
}
