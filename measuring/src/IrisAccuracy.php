<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use Cossel\Core\Motion\Track;

/**
 * How far a followed iris is from the truth: its centre (the start frame's pupil carried by the track) in pixels of the
 * footage, its radius in percent, on frames where the eye is open; and on which frames the lids are said to be closed.
 */
final readonly class IrisAccuracy
{
    /** Openness of the truth from which an eye counts as open, and under which as closed. */
    private const OPEN = 0.5;
    private const CLOSED = 0.15;

    /** @param list<array<string, mixed>> $frames of the truth file */
    private function __construct(private array $frames, private string $eye, private int $start, private int $height) {}

    /** @param string $eye eye_l or eye_r */
    public static function of(string $truthFile, string $eye, int $start): self
    {
        $truth = json_decode((string) file_get_contents($truthFile), true, flags: JSON_THROW_ON_ERROR);

        return new self($truth['frame'], $eye, $start, $truth['height']);
    }

    /** @return array<string, mixed> a circle laid over the iris by hand: a little off and a little too large */
    public function area(): array
    {
        $eye = $this->frames[$this->start][$this->eye];
        $radius = 1.04 * $eye['iris_r'] / $this->height;
        $last = count($this->frames) - 1;

        return [
            'id' => 'iris',
            'name' => 'Iris',
            'outline' => ['at' => $this->start, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [$eye['pupil']['x'] / $this->height + 0.004, $eye['pupil']['y'] / $this->height - 0.003], 'radii' => [$radius, $radius]]]],
            'motion' => ['by' => 'follow', 'model' => 'iris', 'start' => $this->start, 'span' => [0, $last]],
            'live' => ['from' => 0, 'to' => $last],
        ];
    }

    /** @return array{float, float} RMS of the centre in pixels, largest miss of the radius in percent */
    public function errors(Track $track): array
    {
        $from = $this->frames[$this->start][$this->eye];
        $squares = [];
        $radius = 0.0;
        foreach ($this->frames as $frame => $truth) {
            $eye = $truth[$this->eye];
            if ($eye['open'] < self::OPEN) {
                continue;
            }
            $motion = $track->matrix($frame)->times($track->matrix($this->start)->inverse());
            [$x, $y] = $motion->apply($from['pupil']['x'] / $this->height, $from['pupil']['y'] / $this->height);
            $squares[] = ($x * $this->height - $eye['pupil']['x']) ** 2 + ($y * $this->height - $eye['pupil']['y']) ** 2;
            $radius = max($radius, abs(100 * ($from['iris_r'] * $motion->scale() / $eye['iris_r'] - 1)));
        }

        return [sqrt(array_sum($squares) / count($squares)), $radius];
    }

    /** @return array{string, string} the spans the track says are closed, and the truth's */
    public function closed(Track $track): array
    {
        $said = array_keys(array_filter($track->steps, static fn($step): bool => $step->open !== null && $step->open < self::CLOSED));
        $true = array_keys(array_filter($this->frames, fn(array $frame): bool => $frame[$this->eye]['open'] < self::CLOSED));

        return [Spans::words($said), Spans::words($true)];
    }
}
