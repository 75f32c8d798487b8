<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\MotionKey;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;

/**
 * Where the areas of a recipe and their shapes are on each frame: track, dropped channels, corrections and riding put
 * together. A point p of an outline is on frame f at Keys(f) Use(T(f) T(at)^-1) p.
 */
final class Motions implements Poses
{
    /** @var array<string, Matrix> */
    private array $known = [];

    /** @param array<string, Track> $tracks by sha256 */
    public function __construct(private readonly Recipe $recipe, private readonly array $tracks) {}

    /** The motion of an area from its outline's frame to this one, in picture heights, corrections included. */
    public function of(Area $area, int $frame): Matrix
    {
        return $this->known["{$area->id} {$area->outline->at} {$frame}"] ??= $this->corrected($area, $area->motion, $frame);
    }

    /** The motion of one of its shapes: the shape's own where it has one. */
    public function ofShape(Area $area, Shape $shape, int $frame): Matrix
    {
        return $shape->motion === null ? $this->of($area, $frame) : $this->corrected($area, $shape->motion, $frame);
    }

    public function pose(Area $area, Shape $shape, int $frame): Pose
    {
        $track = $this->track($area, $shape->motion ?? $area->motion);

        return new Pose($this->ofShape($area, $shape, $frame), $track?->warp($frame, $area->outline->at));
    }

    public function area(string $id): Area
    {
        return $this->recipe->area($id);
    }

    /** How far the lids over an area are open on a frame, 0 to 1, by its own or its shapes' tracks; null if unknown. */
    public function openness(Area $area, int $frame): ?float
    {
        foreach ([$area->motion, ...array_map(static fn(Shape $shape): ?Motion => $shape->motion, $area->outline->shapes)] as $motion) {
            $open = $motion === null ? null : $this->track($area, $motion)?->open($frame);
            if ($open !== null) {
                return $open;
            }
        }

        return null;
    }

    /** @throws MissingTrack */
    public function track(Area $area, Motion $motion): ?Track
    {
        if ($motion->by !== Motion::FOLLOW || $motion->track === null) {
            return null;
        }

        return $this->tracks[$motion->track] ?? throw MissingTrack::of($area, $motion->track);
    }

    private function corrected(Area $area, Motion $motion, int $frame): Matrix
    {
        $used = $this->uncorrected($area, $motion, $frame);

        return $motion->keys === [] ? $used : self::correction($motion, $frame, $used)->times($used);
    }

    /** A motion without its corrections by hand. */
    public function uncorrected(Area $area, Motion $motion, int $frame): Matrix
    {
        return self::used($motion, $this->raw($area, $motion, $frame));
    }

    /** The correction by hand that goes on top of a motion on a frame. */
    public static function correction(Motion $motion, int $frame, Matrix $uncorrected): Matrix
    {
        if ($motion->keys === []) {
            return Matrix::identity();
        }
        $key = MotionKey::blend($motion->keys, $frame);
        [$px, $py] = $uncorrected->apply(...$motion->pivot);
        $sheared = Matrix::of([1, $key->shear, -$key->shear * $py, 0, 1, 0, 0, 0, 1]);

        return Matrix::about($px, $py, $key->turn, $key->scale, $key->scale, $key->moveX, $key->moveY)->times($sheared);
    }

    private function raw(Area $area, Motion $motion, int $frame): Matrix
    {
        $at = $area->outline->at;
        if ($motion->by === Motion::RIDE && $motion->on !== null) {
            $other = $this->recipe->area($motion->on);

            return $this->of($other, $frame)->times($this->of($other, $at)->inverse());
        }
        $track = $this->track($area, $motion);

        return $track === null ? Matrix::identity() : $track->matrix($frame)->times($track->matrix($at)->inverse());
    }

    /**
     * The motion without the channels that are not used, about the pivot. The linear part there is taken apart into a
     * turn, a uniform scale and what is left of shear (polar decomposition).
     */
    private static function used(Motion $motion, Matrix $whole): Matrix
    {
        if (array_diff(array_column(Motion::WHOLE, 'value'), array_column($motion->use, 'value')) === []) {
            return $whole;
        }
        [$px, $py] = $motion->pivot;
        [$x, $y] = $whole->apply($px, $py);
        $local = $whole->affineAt($px, $py);
        $turn = $motion->uses(Channel::Rotation) ? $local->turn() : 0.0;
        $scale = $motion->uses(Channel::Scale) ? $local->scale() : 1.0;
        [$dx, $dy] = $motion->uses(Channel::Position) ? [$x - $px, $y - $py] : [0.0, 0.0];
        $kept = Matrix::about($px, $py, $turn, $scale, $scale, $dx, $dy);
        if ($motion->uses(Channel::Shear)) {
            $plain = Matrix::about($px, $py, $local->turn(), $local->scale(), $local->scale(), $x - $px, $y - $py);
            $kept = $kept->times($plain->inverse()->times($motion->uses(Channel::Perspective) ? $whole : $local));
        }

        return $kept;
    }
}
