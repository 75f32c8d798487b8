<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\MotionKey;
use Cossel\Core\Recipe\Recipe;

/**
 * Where the areas of a recipe are on each frame: track, dropped channels, corrections and riding put together.
 * A point p of an outline is on frame f at Keys(f) Use(T(f) T(at)^-1) p.
 */
final class Motions
{
    /** @var array<string, Matrix> */
    private array $known = [];

    /** @param array<string, Track> $tracks by sha256 */
    public function __construct(private readonly Recipe $recipe, private readonly array $tracks) {}

    /** The motion of an area from its outline's frame to this one, in picture heights, corrections included. */
    public function of(Area $area, int $frame): Matrix
    {
        return $this->known["{$area->id} {$frame}"] ??= $this->corrected($area, $frame);
    }

    private function corrected(Area $area, int $frame): Matrix
    {
        $motion = $area->motion;
        $used = self::used($motion, $this->raw($area, $frame));
        if ($motion->keys === []) {
            return $used;
        }
        $at = static fn(callable $value): float => Keyed::blend($motion->keys, $frame, $value) ?? 0.0;
        [$px, $py] = $used->apply(...$motion->pivot);
        $scale = $at(static fn(MotionKey $k): float => $k->scale);

        return Matrix::about(
            $px,
            $py,
            $at(static fn(MotionKey $k): float => $k->turn),
            $scale,
            $scale,
            $at(static fn(MotionKey $k): float => $k->moveX),
            $at(static fn(MotionKey $k): float => $k->moveY),
        )->times($used);
    }

    private function raw(Area $area, int $frame): Matrix
    {
        $motion = $area->motion;
        $at = $area->outline->at;
        if ($motion->by === Motion::RIDE && $motion->on !== null) {
            $other = $this->recipe->area($motion->on);

            return $this->of($other, $frame)->times($this->of($other, $at)->inverse());
        }
        $track = $motion->by === Motion::FOLLOW && $motion->track !== null ? $this->tracks[$motion->track] ?? throw MissingTrack::of($area, $motion->track) : null;

        return $track === null ? Matrix::identity() : $track->matrix($frame)->times($track->matrix($at)->inverse());
    }

    /** The motion without the channels that are not used, about the pivot. */
    private static function used(Motion $motion, Matrix $whole): Matrix
    {
        $use = static fn(Channel $channel): bool => in_array($channel, $motion->use, true);
        if ($use(Channel::Position) && $use(Channel::Rotation) && $use(Channel::Scale)) {
            return $whole;
        }
        [$px, $py] = $motion->pivot;
        [$x, $y] = $whole->apply($px, $py);
        $local = $whole->affineAt($px, $py);
        $scale = $use(Channel::Scale) ? $local->scale() : 1.0;

        return Matrix::about(
            $px,
            $py,
            $use(Channel::Rotation) ? $local->turn() : 0.0,
            $scale,
            $scale,
            $use(Channel::Position) ? $x - $px : 0.0,
            $use(Channel::Position) ? $y - $py : 0.0,
        );
    }
}
