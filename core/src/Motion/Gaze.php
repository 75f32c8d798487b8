<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Part;

/**
 * The two eyes of a head look at one thing: on the head, their irises go the same way, but for a difference that changes slowly.
 * Where they do not, the one that was seen less surely, or not at all, is put where the other one looks. And they blink together: where one
 * seems half shut beside an open one and never closes, as in a shadow, it is as open as the other. One that does close winks.
 */
final readonly class Gaze
{
    /** By how much two irises may differ, of their radius: eyes converge, and lie deeper than the surface of the head. */
    private const APART = 0.75;
    /** Confidence from which an eye is one to go by. */
    private const SURE = 0.7;
    /** Confidence of a frame on which an iris was put after the other. */
    private const PUT = 0.3;
    /** By how much two may differ in how open they are, and under what one is shut. */
    private const UNLIKE = 0.3;
    private const SHUT = 0.15;

    /** Places by frame: in picture heights of the frame the head was outlined on. */
    private function __construct(private Motions $motions, private Area $head, private int $start) {}

    /**
     * @param array<string, Area> $areas that were followed at once
     * @param int                 $start the frame they were followed from
     *
     * @return array<string, Track> by area: the tracks of irises that were put right
     */
    public static function together(array $areas, Motions $motions, int $start): array
    {
        $eyes = array_values(array_filter($areas, static fn(Area $a): bool => $a->is(Part::Iris)));
        $head = count($eyes) === 2 && $eyes[0]->person === $eyes[1]->person ? $motions->head($eyes[0]) : null;
        $tracks = array_values(array_filter(array_map(static fn(Area $eye): ?Track => $motions->track($eye, $eye->motion), $eyes)));
        if ($head === null || count($tracks) !== 2 || $motions->head($eyes[1]) !== $head) {
            return [];
        }
        $gaze = new self($motions, $head, $start);
        $places = [$gaze->places($eyes[0], $tracks[0]), $gaze->places($eyes[1], $tracks[1])];
        $wrong = $gaze->wrong($places, $tracks, self::APART * min($gaze->radius($eyes[0]), $gaze->radius($eyes[1])));
        $mended = [];
        foreach ($tracks as $k => $track) {
            $isOff = static fn(int $frame): bool => isset($wrong[$k][$frame]) || !self::seen($track, $frame);
            foreach (self::runs($track, $isOff) as $run) {
                [$other, $id] = [1 - $k, $eyes[$k]->id];
                $leads = array_diff_key(array_flip($run), $wrong[$other]);
                if (array_filter(array_keys($leads), static fn(int $f): bool => self::seen($tracks[$other], $f, self::SURE)) !== []) {
                    $mended[$id] = $gaze->after($tracks[$other], $places[$other], $mended[$id] ?? $track, $places[$k], $run);
                }
            }
        }
        $tracks = array_map(static fn(Area $eye, Track $track): Track => $mended[$eye->id] ?? $track, $eyes, $tracks);
        foreach ($eyes as $k => $eye) {
            $opened = self::asOpen($tracks[$k], $tracks[1 - $k]);
            if ($opened !== null) {
                $mended[$eye->id] = $opened;
            }
        }

        return $mended;
    }

    /** A track with the frames on which its eye only seems half shut as open as the other's; null where there are none. */
    private static function asOpen(Track $track, Track $other): ?Track
    {
        $open = static fn(int $frame): float => $track->steps[$frame]->open ?? 1.0;
        $isLess = static fn(int $frame): bool => ($other->steps[$frame]->open ?? 0.0) - $open($frame) > self::UNLIKE
            && self::seen($other, $frame, self::SURE);
        $steps = [];
        foreach (self::runs($track, $isLess) as $run) {
            foreach (min(array_map($open, $run)) < self::SHUT ? [] : $run as $frame) {
                $steps[$frame] = $track->steps[$frame]->opened($other->steps[$frame]->open);
            }
        }

        return $steps === [] ? null : Track::of($track->start, $track->model, $steps + $track->steps);
    }

    /**
     * Where an iris is on its head.
     *
     * @return array<int, array{float, float}> by frame
     */
    private function places(Area $eye, Track $track): array
    {
        $middle = $track->matrix($eye->outline->at)->inverse()->apply(...self::ellipse($eye)->centre);
        $places = [];
        foreach ($track->steps as $frame => $step) {
            $places[$frame] = $this->motions->surface($this->head, $frame)->undo(...$step->matrix->apply(...$middle));
        }

        return $places;
    }

    private function radius(Area $eye): float
    {
        return max(self::ellipse($eye)->radii) / $this->motions->surface($this->head, $eye->outline->at)->size();
    }

    private static function ellipse(Area $eye): Ellipse
    {
        $shape = $eye->outline->shapes[0];

        return $shape instanceof Ellipse ? $shape : throw new \LogicException('An iris is followed by its ellipse.');
    }

    private static function seen(Track $track, int $frame, float $least = 0.0): bool
    {
        $step = $track->steps[$frame] ?? null;

        return $step !== null && ($step->state === State::Set || ($step->state === State::Followed && $step->confidence >= $least));
    }

    /**
     * Frames in a row on which they do not look the same way: all of them are the fault of the one that was seen less surely.
     *
     * @param array{array<int, array{float, float}>, array<int, array{float, float}>} $places
     * @param array{Track, Track}                                                     $tracks
     *
     * @return array{array<int, true>, array<int, true>} frames of each eye
     */
    private function wrong(array $places, array $tracks, float $most): array
    {
        $spans = [];
        $last = null;
        foreach (array_intersect_key($places[0], $places[1]) as $frame => $_) {
            [$u, $v] = $this->difference($places, $frame);
            if (hypot($u, $v) <= $most) {
                continue;
            }
            if ($last === $frame - 1) {
                $spans[array_key_last($spans)][] = $frame;
            } else {
                $spans[] = [$frame];
            }
            $last = $frame;
        }
        $wrong = [[], []];
        foreach ($spans as $span) {
            $sure = array_map(static function (Track $track) use ($span): float {
                return array_sum(array_map(static fn(int $frame): float => $track->steps[$frame]->confidence, $span));
            }, $tracks);
            $wrong[$sure[0] < $sure[1] ? 0 : 1] += array_fill_keys($span, true);
        }

        return $wrong;
    }

    /**
     * @param \Closure(int): bool $isOne
     *
     * @return list<non-empty-list<int>> frames in a row that are such
     */
    private static function runs(Track $track, \Closure $isOne): array
    {
        $runs = [[]];
        foreach (array_keys($track->steps) as $frame) {
            if ($isOne($frame)) {
                $runs[array_key_last($runs)][] = $frame;
            } elseif ($runs[array_key_last($runs)] !== []) {
                $runs[] = [];
            }
        }

        return array_values(array_filter($runs));
    }

    /**
     * A track with some of its frames put where the other eye looks, as large and as open as that one has become. The difference
     * there is between the two before and after is kept.
     *
     * @param array<int, array{float, float}> $leads  places of the other
     * @param array<int, array{float, float}> $places of this one
     * @param non-empty-list<int>             $run
     */
    private function after(Track $other, array $leads, Track $track, array $places, array $run): Track
    {
        [$before, $behind] = [$run[0] - 1, $run[count($run) - 1] + 1];
        $ends = array_map(function (int $frame) use ($places, $leads): ?array {
            return isset($places[$frame], $leads[$frame]) ? $this->difference([$places, $leads], $frame) : null;
        }, [$before, $behind]);
        $from = $ends[0] ?? $ends[1] ?? [0.0, 0.0];
        $to = $ends[1] ?? $from;
        $home = $places[$this->start];
        [$px, $py] = $this->motions->surface($this->head, $this->start)->apply(...$home);
        $steps = $track->steps;
        foreach ($run as $frame) {
            $lead = $other->steps[$frame] ?? null;
            if ($lead === null) {
                continue;
            }
            $t = ($frame - $before) / ($behind - $before);
            $place = [];
            foreach ([0, 1] as $i) {
                $place[] = $home[$i] + $leads[$frame][$i] - $leads[$this->start][$i] + $from[$i] + ($to[$i] - $from[$i]) * $t;
            }
            [$x, $y] = $this->motions->surface($this->head, $frame)->apply(...$place);
            $grown = $lead->matrix->scale() / $other->matrix($this->start)->scale();
            $matrix = Matrix::about($px, $py, 0.0, $grown, $grown, $x - $px, $y - $py)->times($track->matrix($this->start));
            $steps[$frame] = new Step($matrix, State::Bridged, min(self::PUT, $lead->confidence), null, $lead->open);
        }

        return Track::of($track->start, $track->model, $steps);
    }

    /**
     * @param array{array<int, array{float, float}>, array<int, array{float, float}>} $places
     *
     * @return array{float, float} by how much the first has gone further than the second since the start
     */
    private function difference(array $places, int $frame): array
    {
        [$a, $b] = $places;

        return [
            $a[$frame][0] - $a[$this->start][0] - $b[$frame][0] + $b[$this->start][0],
            $a[$frame][1] - $a[$this->start][1] - $b[$frame][1] + $b[$this->start][1],
        ];
    }
}
