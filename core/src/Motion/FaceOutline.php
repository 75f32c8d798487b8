<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\FollowedFace;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Silhouette;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\PathPoint;

/**
 * The outline of a face that keeps to the face's border as it is seen on each frame: a surface that was seen from one side does not know
 * the cheek that comes into view when the head turns. What was drawn inside or outside that border stays so by the same share.
 */
final readonly class FaceOutline
{
    /** An outline is a face's where so much of its lower half lies along the border, in shares of the way from the middle. */
    private const ALONG = [0.8, 1.25];
    private const MUCH = 0.8;
    /** How far from where the surface goes it may be found on the mean, in sizes of it. */
    private const AWAY = 0.25;
    private const PER_PIECE = 4;

    /**
     * @param list<PathPoint>  $points on the start frame, picture heights
     * @param array<int, Mesh> $face   by frame
     */
    private function __construct(private int $start, private array $points, private array $face) {}

    /** @return self|null null where the area is not outlined along the border of a face that is seen on the start frame */
    public static function of(Area $area, FaceSource $faces, int $start, Motions $motions): ?self
    {
        $path = $area->outline->path();
        if ($path === null) {
            return null;
        }
        $pose = $motions->pose($area, $path, $start);
        $at = $pose->path($path->at($area->outline->at)->points);
        $points = array_map(static fn(PathPoint $p): PathPoint => $p->moved($pose->motion), $at);
        foreach ($faces->on($start) as $face) {
            if ($face->isSure() && self::isAlong($points, $face)) {
                return new self($start, $points, FollowedFace::from($faces, $face, $start)->meshes());
            }
        }

        return null;
    }

    /**
     * The steps of a follow of the face, with the points of its outline on each frame. Where the face is not seen, what was found beside
     * the surface is laid between the frames before and after.
     *
     * @param array<int, Step> $steps  by frame, from the start frame
     * @param Relief|null      $relief of the face on that
     *
     * @return non-empty-array<int, Step>
     */
    public function laid(array $steps, Model $model, ?Relief $relief): array
    {
        $steps[$this->start] ??= new Step(Matrix::identity(), State::Set, 1.0);
        $track = Track::of($this->start, $model, $steps, $relief);
        $from = Silhouette::of($this->face[$this->start]);
        $beside = new Beside();
        foreach ($steps as $frame => $step) {
            $pose = $track->pose($frame);
            $home = array_map(static fn(PathPoint $p): PathPoint => $p->moved($pose->motion), $pose->path($this->points));
            $mesh = $this->face[$frame] ?? null;
            $found = $mesh === null ? null : $this->carried($from, Silhouette::of($mesh));
            $isFound = $found !== null && PathShape::apart($found, $home) < self::AWAY * PathShape::size($home);
            $beside->add($frame, PathShape::numbers($home), $isFound ? PathShape::numbers($found) : null);
        }
        foreach ($beside->settled() as $frame => $numbers) {
            $steps[$frame] = $steps[$frame]->along($frame === $this->start ? $this->points : PathShape::points($numbers));
        }

        return $steps;
    }

    /** @return list<PathPoint> */
    private function carried(Silhouette $from, Silhouette $to): array
    {
        $place = static fn(float $x, float $y): array => $to->place($from->told($x, $y));

        return array_map(static function (PathPoint $p) use ($place): PathPoint {
            [$x, $y] = $place($p->x, $p->y);
            [$inX, $inY] = $place($p->x + $p->inX, $p->y + $p->inY);
            [$outX, $outY] = $place($p->x + $p->outX, $p->y + $p->outY);

            return new PathPoint($x, $y, $inX - $x, $inY - $y, $outX - $x, $outY - $y);
        }, $this->points);
    }

    /** @param list<PathPoint> $points */
    private static function isAlong(array $points, Mesh $face): bool
    {
        $border = Silhouette::of($face);
        $told = array_map(static fn(array $p): array => $border->told(...$p), Contour::along($points, self::PER_PIECE));
        $low = array_filter($told, static fn(array $p): bool => $p[1] > 0.0);
        $along = array_filter($low, static fn(array $p): bool => $p[2] > self::ALONG[0] && $p[2] < self::ALONG[1]);

        return $low !== [] && count($along) >= self::MUCH * count($low);
    }
}
