<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/**
 * Learns a relief from where points were found on all frames of a shot: by turns the depth of each point that its own way
 * tells, how the head is turned on the start frame, the surface drawn to those depths, and the motions over it. A point counts by
 * how well its way fits one depth over the whole shot: what slides with the light or sits on the edge against the
 * background does not.
 *
 * @phpstan-import-type Depth from SurfaceView
 * @phpstan-type Places array<int, array{float, float}>
 */
final class ReliefLearner
{
    private const ROUNDS = 6;
    /** Rounds before the surface itself is drawn. */
    private const VIEW_FIRST = 2;
    /** Errors of neighbouring frames are alike: so many count as one. */
    private const ALIKE = 12.0;
    /** Of a found place, and of a depth besides what its way tells in pixels and centimetres. */
    private const ERROR = 1.0;
    private const UNEVEN = 0.1;
    /** How far a point's own depth may lie from the surface, centimetres. */
    private const OWN = 0.25;
    private const OUTLIER = 8.0;
    private const FEWEST = 5;
    private const LOST = 20.0;
    private const LEAST_POINTS = 8;

    /** @var list<float> */
    private array $depths;
    /** @var list<float> how much each point counts */
    private array $trust;

    /**
     * @param list<array{float, float}>  $from    points on the start frame, pixels
     * @param array<int, Places>         $found   by frame
     * @param array<int, ReliefMotion>   $motions of these frames, over the view
     * @param array{float, float}        $middle
     */
    private function __construct(
        private readonly array $from,
        private readonly array $found,
        private array $motions,
        private readonly array $middle,
        private readonly float $tolerance,
        SurfaceView $view,
    ) {
        $this->depths = array_map(static fn(array $p): float => $view->depth(...$p), $from);
        $this->trust = array_fill(0, count($from), 1.0);
    }

    /**
     * @param list<array{float, float}> $from
     * @param array<int, Places>        $found
     * @param array<int, ReliefMotion>  $motions
     * @param array{float, float}       $middle
     *
     * @return array{DepthField, array<int, ReliefMotion>} the field in pixels, and the motions over it
     */
    public static function learn(SurfaceView $began, array $from, array $found, array $motions, array $middle, float $tolerance): array
    {
        $learner = new self($from, $found, $motions, $middle, $tolerance, $began);
        $view = $began;
        $field = DepthField::of($view);
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $own = $learner->own($view->unit());
            if (count($own) < self::LEAST_POINTS) {
                break;
            }
            $gauge = ReliefGauge::of(array_values($learner->motions));
            [$view, $plane] = $view->fitted($began, array_values($own), [1.0, 0.0, 0.0, 0.0], $gauge, $middle);
            $own = $learner->normalised($own, $plane, $view->unit());
            $field = $round < self::VIEW_FIRST ? DepthField::of($view) : DepthField::drawn($view, array_values($own));
            $learner->settle($field, $own, $view->unit());
        }

        return [$field, $learner->motions];
    }

    /**
     * The depth of each point that its way tells, and how sure it is.
     *
     * @return array<int, Depth> by point
     */
    private function own(float $unit): array
    {
        $n = count($this->from);
        $along = $told = $errors = $seen = array_fill(0, $n, 0.0);
        foreach ($this->found as $frame => $places) {
            $motion = $this->motions[$frame];
            [$u, $v] = $motion->depth;
            $misses = [];
            foreach ($places as $i => [$x, $y]) {
                [$px, $py] = $motion->apply(...[...$this->from[$i], $this->depths[$i]]);
                $misses[$i] = hypot($px - $x, $py - $y);
            }
            $reach = self::OUTLIER * self::usual($misses, 0.5);
            foreach ($places as $i => [$x, $y]) {
                $w = $misses[$i] >= $reach ? 0.0 : (1.0 - ($misses[$i] / $reach) ** 2) ** 2;
                [$px, $py] = $motion->apply(...[...$this->from[$i], 0.0]);
                $along[$i] += $w * (($x - $px) * $u + ($y - $py) * $v);
                $told[$i] += $w * ($u * $u + $v * $v);
            }
        }
        $depths = array_map(static fn(float $a, float $t, float $z): float => $t > 1e-9 ? $a / $t : $z, $along, $told, $this->depths);
        foreach ($this->found as $frame => $places) {
            foreach ($places as $i => [$x, $y]) {
                [$px, $py] = $this->motions[$frame]->apply(...[...$this->from[$i], $depths[$i]]);
                $errors[$i] += min(self::LOST ** 2, ($px - $x) ** 2 + ($py - $y) ** 2);
                ++$seen[$i];
            }
        }
        $spreads = [];
        for ($i = 0; $i < $n; ++$i) {
            if ($seen[$i] >= self::FEWEST) {
                $spreads[$i] = sqrt($errors[$i] / $seen[$i]);
            }
        }
        $usual = self::usual($spreads, 0.35);
        $own = [];
        for ($i = 0; $i < $n; ++$i) {
            $this->trust[$i] = isset($spreads[$i]) ? 1.0 / (1.0 + ($spreads[$i] / $usual) ** 2) ** 2 : 0.05;
            if (isset($spreads[$i]) && $told[$i] > 1e-9) {
                $variance = (self::ERROR ** 2 + $spreads[$i] ** 2) * self::ALIKE / $told[$i];
                $own[$i] = [$this->from[$i][0], $this->from[$i][1], $depths[$i], $variance + (self::UNEVEN * $unit) ** 2];
            }
        }

        return $own;
    }

    /**
     * Scale and tilt go from the depths into the motions, so that depths are as long as widths.
     *
     * @param array<int, Depth>                 $own
     * @param array{float, float, float, float} $plane
     *
     * @return array<int, Depth>
     */
    private function normalised(array $own, array $plane, float $unit): array
    {
        [$scale, $offset, $p, $q] = $plane;
        $offset -= $p * $this->middle[0] + $q * $this->middle[1];
        foreach ($this->motions as $frame => $motion) {
            $this->motions[$frame] = $motion->over($scale, $offset, $p, $q);
        }
        $uneven = (self::UNEVEN * $unit) ** 2;

        return array_map(static fn(array $d): array => [
            $d[0],
            $d[1],
            ($d[2] - $offset - $p * $d[0] - $q * $d[1]) / $scale,
            max(0.0, $d[3] - $uneven) / $scale ** 2 + $uneven,
        ], $own);
    }

    /**
     * Points lie on the surface, or where their own way tells surely; then the motions are fitted anew.
     *
     * @param array<int, Depth> $own
     */
    private function settle(DepthField $field, array $own, float $unit): void
    {
        $held = 1.0 / (self::OWN * $unit) ** 2;
        foreach ($this->from as $i => [$x, $y]) {
            $this->depths[$i] = $field->depth($x, $y);
            if (isset($own[$i])) {
                $sure = 1.0 / $own[$i][3];
                $this->depths[$i] = ($this->depths[$i] * $held + $own[$i][2] * $sure) / ($held + $sure);
            }
        }
        foreach ($this->found as $frame => $places) {
            $from = $depths = $to = $trust = [];
            foreach ($places as $i => $place) {
                $from[] = $this->from[$i];
                $depths[] = $this->depths[$i];
                $to[] = $place;
                $trust[] = $this->trust[$i];
            }
            $this->motions[$frame] = ReliefMotion::robust($from, $depths, $to, $this->tolerance, $trust)[0] ?? $this->motions[$frame];
        }
    }

    /** @param array<int, float> $values */
    private static function usual(array $values, float $share): float
    {
        sort($values);

        return $values === [] ? 1.0 : max(0.5, $values[(int) ($share * count($values))]);
    }
}
