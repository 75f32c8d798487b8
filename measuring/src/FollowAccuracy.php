<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use Cossel\Core\Motion\Fit;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;

/**
 * How far a follow is from the truth: the face points of the start frame carried by the track, against where they
 * really are, RMS over all points and frames, in percent of the face's width (1.55 x the distance of the outer eye
 * corners on the start frame). The floor is what is left when the same model is fitted to the truth itself.
 */
final readonly class FollowAccuracy
{
    /** Of {@see points}: the corners of the eyes and the mouth. */
    public const CORNERS = [0, 1, 2, 3, 5, 6];

    /** @param list<array<string, mixed>> $frames of the truth file */
    private function __construct(private array $frames, private int $start, private Model $model, private int $height) {}

    public static function of(string $truthFile, int $start, Model $model): self
    {
        $truth = json_decode((string) file_get_contents($truthFile), true, flags: JSON_THROW_ON_ERROR);

        return new self($truth['frame'], $start, $model, $truth['height']);
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
            'motion' => ['by' => 'follow', 'model' => $this->model->value, 'start' => $this->start, 'span' => [0, count($this->frames) - 1]],
            'live' => ['from' => 0, 'to' => count($this->frames) - 1],
        ];
    }

    /**
     * By frame, in percent of the face's width.
     *
     * @param list<int>|null $of the points that count; all when left out
     *
     * @return array<int, float>
     */
    public function errors(Track $track, ?array $of = null): array
    {
        $from = $this->points($this->start);

        return $this->apart(function (int $frame) use ($track, $from): array {
            [$was, $is] = [$track->pose($this->start), $track->pose($frame)];

            return array_map(fn(array $p): array => array_map(fn(float $v): float => $v * $this->height, $is->apply(...$was->undo($p[0] / $this->height, $p[1] / $this->height))), $from);
        }, $of);
    }

    /**
     * What is left when the same model is fitted to the truth itself.
     *
     * @return array<int, float>
     */
    public function floors(): array
    {
        $from = $this->points($this->start);

        return $this->apart(function (int $frame) use ($from): array {
            $motion = Fit::least($this->model, $from, $this->points($frame)) ?? throw new \LogicException('The truth has too few points.');

            return array_map(static fn(array $p): array => $motion->apply(...$p), $from);
        });
    }

    /** @param non-empty-array<int, float> $errors */
    public static function rms(array $errors): float
    {
        return sqrt(array_sum(array_map(static fn(float $e): float => $e * $e, $errors)) / count($errors));
    }

    /**
     * @param callable(int): list<array{float, float}> $carried
     * @param list<int>|null                           $of
     *
     * @return array<int, float>
     */
    private function apart(callable $carried, ?array $of = null): array
    {
        $errors = [];
        foreach (array_keys($this->frames) as $frame) {
            $truth = $this->points($frame);
            $squares = array_map(static fn(array $p, array $q): float => ($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2, $carried($frame), $truth);
            $squares = $of === null ? $squares : array_intersect_key($squares, array_flip($of));
            $errors[$frame] = 100 * sqrt(array_sum($squares) / count($squares)) / $this->faceWidth();
        }

        return $errors;
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
