<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Face\Crowd;
use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Parallax;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\MotionKey;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;

/**
 * Where the areas of a recipe and their shapes are on each frame: track, dropped channels, corrections and riding put
 * together. A point p of an outline is on frame f at Keys(f) Use(T(f) T(at)^-1) p; where what is followed has a relief, p is
 * shifted along its depth there before that.
 */
final class Motions implements Poses
{
    /** @var array<string, Matrix> */
    private array $known = [];
    /** @var array<string, Relief|null> */
    private array $reliefs = [];

    /** @param array<string, Track> $tracks by sha256 */
    public function __construct(private readonly Recipe $recipe, private readonly array $tracks, private readonly ?Crowd $crowd = null) {}

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
        $motion = $shape->motion ?? $area->motion;
        $track = $this->track($area, $motion);
        // Over a relief only the outline itself has points of its own.
        $own = $shape instanceof Path && ($track?->relief === null || $shape->id === $area->outline->path()?->id);
        $warp = $own ? $track?->warp($frame, $area->outline->at) : null;

        return new Pose($this->ofShape($area, $shape, $frame), $warp, $this->parallax($area, $motion, $frame));
    }

    public function people(Area $area, People $shape, int $frame): ?PeopleMatte
    {
        return $this->crowd?->matte($frame, $shape->place, $area->outline->at);
    }

    /** Where the surface an area lies on is, from its outline's frame; points that were followed on their own left out. */
    public function surface(Area $area, int $frame): Pose
    {
        return new Pose($this->of($area, $frame), parallax: $this->parallax($area, $area->motion, $frame));
    }

    /** Where the places of an area are, from its outline's frame: with the points that were followed on their own, or as the surface is. */
    public function followed(Area $area, int $frame): Pose
    {
        $warp = $this->track($area, $area->motion)?->warp($frame, $area->outline->at);

        return new Pose($this->of($area, $frame), $warp, $this->parallax($area, $area->motion, $frame));
    }

    private function parallax(Area $area, Motion $motion, int $frame): ?Parallax
    {
        return $motion->uses(Channel::Perspective) ? $this->whole($area, $motion, $frame)->parallax : null;
    }

    /** A motion with all its channels, before corrections. */
    private function whole(Area $area, Motion $motion, int $frame): Pose
    {
        $shift = $this->shift($area, $motion, $frame);
        $relief = $shift === null ? null : $this->relief($area, $motion);
        $parallax = $shift === null || $relief === null ? null : new Parallax($relief, ...$shift);

        return new Pose($this->raw($area, $motion, $frame), parallax: $parallax);
    }

    /**
     * How far a place of an area's outline that stands out by 1 is shifted on a frame, before the motion.
     *
     * @return array{float, float}|null null where there is no relief
     */
    private function shift(Area $area, Motion $motion, int $frame): ?array
    {
        $at = $area->outline->at;
        if ($motion->by === Motion::RIDE && $motion->on !== null) {
            $other = $this->recipe->area($motion->on);
            if (!$other->motion->uses(Channel::Perspective)) {
                return null;
            }
            $from = $this->shift($other, $other->motion, $at);
            $to = $this->shift($other, $other->motion, $frame);
            if ($from === null || $to === null) {
                return null;
            }
            [$a, $b, , $c, $d] = $this->of($other, $at)->m;
            [$u, $v] = [$to[0] - $from[0], $to[1] - $from[1]];

            return [$a * $u + $b * $v, $c * $u + $d * $v];
        }
        $track = $this->track($area, $motion);
        if ($track?->relief === null) {
            return null;
        }
        [$from, $to] = [$track->pose($at), $track->pose($frame)];
        if ($from->parallax === null || $to->parallax === null) {
            return null;
        }
        [$a, $b, , $c, $d] = $from->motion->m;
        [$u, $v] = [$to->parallax->x - $from->parallax->x, $to->parallax->y - $from->parallax->y];

        return [$a * $u + $b * $v, $c * $u + $d * $v];
    }

    /** The relief of what an area lies on, where its outline is stated. */
    private function relief(Area $area, Motion $motion): ?Relief
    {
        $at = $area->outline->at;
        $other = $motion->by === Motion::RIDE && $motion->on !== null ? $this->recipe->area($motion->on) : null;
        $key = ($other === null ? $motion->track : "{$other->id} {$other->outline->at}") . " {$at}";
        if (!array_key_exists($key, $this->reliefs)) {
            $under = $other === null ? $this->track($area, $motion)?->pose($at) : $this->surface($other, $at);
            $on = $under?->parallax;
            $this->reliefs[$key] = $on?->relief->carried($under->motion, [$on->x, $on->y]);
        }

        return $this->reliefs[$key];
    }

    public function area(string $id): Area
    {
        return $this->recipe->area($id);
    }

    /**
     * The area that was followed of the head an eye or a mouth belongs to: the same person's face, or what is round the eyes; of
     * several the one it is nearest to. Null where there is none, and for other areas.
     */
    public function head(Area $area): ?Area
    {
        if (!$area->is(Part::Lids, Part::Lips, Part::Teeth, Part::Iris, Part::Eye, Part::Whites)) {
            return null;
        }
        $heads = array_filter(
            $this->recipe->areas,
            fn(Area $other): bool => $other->is(Part::Face, Part::Skin)
                && $other->person === $area->person
                && $this->track($other, $other->motion) !== null,
        );
        [$x, $y] = $area->motion->pivot;
        $apart = static fn(Area $a): float => hypot($a->motion->pivot[0] - $x, $a->motion->pivot[1] - $y);
        usort($heads, static fn(Area $a, Area $b): int => [!$a->is(Part::Face), $apart($a)] <=> [!$b->is(Part::Face), $apart($b)]);

        return $heads[0] ?? null;
    }

    /**
     * Where a face has its eyes and its mouth, by the lids and lips outlined of the same person.
     *
     * @return array{array{float, float}, array{float, float}, float}|null the middles of eyes and mouth, and how far the outer corners are
     *                                                                     apart, picture heights; null where not outlined
     */
    public function marks(Area $face, int $frame): ?array
    {
        $lines = ['lids' => [], 'lips' => []];
        foreach ($this->recipe->areas as $other) {
            $path = $other->outline->shapes[0] ?? null;
            if ($other->person === $face->person && $other->is(Part::Lids, Part::Lips) && $path instanceof Path) {
                $pose = $this->pose($other, $path, $frame);
                $lines[$other->part][] = array_map(static fn(PathPoint $p): array => $pose->apply($p->x, $p->y), $path->points);
            }
        }
        if (count($lines['lids']) !== 2 || count($lines['lips']) !== 1) {
            return null;
        }
        $mean = static function (array $line): array {
            return [array_sum(array_column($line, 0)) / count($line), array_sum(array_column($line, 1)) / count($line)];
        };
        [$a, $b] = array_map($mean, $lines['lids']);
        $length = max(1e-6, hypot($b[0] - $a[0], $b[1] - $a[1]));
        [$x, $y] = [($b[0] - $a[0]) / $length, ($b[1] - $a[1]) / $length];
        $along = array_map(static fn(array $p): float => $p[0] * $x + $p[1] * $y, [...$lines['lids'][0], ...$lines['lids'][1]]);
        $shift = (min($along) + max($along)) / 2 - $a[0] * $x - $a[1] * $y;

        return [[$a[0] + $shift * $x, $a[1] + $shift * $y], $mean($lines['lips'][0]), max($along) - min($along)];
    }

    /** The track of the lips teeth are between; null where they were not followed point by point. */
    public function lips(Area $teeth): ?Track
    {
        foreach ($this->recipe->areas as $other) {
            if ($other->is(Part::Lips) && $other->person === $teeth->person && $other->motion->model === Model::Outline) {
                return $this->track($other, $other->motion);
            }
        }

        return null;
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
        return Channels::used($motion, $this->whole($area, $motion, $frame));
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
}
