<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Face\FaceSource;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Look;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Shape;

/** Chooses how an area is followed. First file to read of this folder for following. */
final class Followers
{
    /**
     * @param Area            $area    whose outline, or one of whose shapes, is followed
     * @param Shape|null      $shape   to follow alone, for its own motion; null for the area
     * @param Motions         $motions where things are so far
     * @param FaceSource|null $faces   those that are seen
     *
     * @throws TooLittleTexture when there is not enough to hold on to
     */
    public static function from(
        FrameSource $source,
        Area $area,
        ?Shape $shape,
        int $start,
        Motions $motions,
        ?FaceSource $faces = null,
    ): Follower {
        $motion = $shape === null ? $area->motion : $shape->motion ?? $area->motion;
        if ($motion->model === Model::Outline) {
            $path = (new Outline($area->outline->at, $shape === null ? $area->outline->shapes : [$shape]))->path();
            if ($path === null) {
                throw TooLittleTexture::noPath();
            }
            $pose = $motions->pose($area, $path, $start);
            $opening = $shape === null && $area->is(Part::Teeth);
            $carrier = $shape === null ? self::carrier($area, $start, $motions, $faces) : HeadCarrier::of($area, $start, $motions);

            return OutlineFollower::from($source, $start, $path->at($area->outline->at), $pose, $carrier, $opening);
        }
        $outline = $shape === null ? $area->outline : new Outline($area->outline->at, [$shape]);
        $looked = $motion->look->spots === [] ? $outline->hard($motion->look->margin) : self::spots($outline->at, $motion->look);
        $region = AreaMatte::on($area->withOutline($looked), $start, $motions, $source->frame());
        if ($motion->model === Model::Iris) {
            return IrisFollower::from($source, $start, $region, self::carrier($area, $start, $motions, $faces));
        }

        // One spot tells no more than where it is.
        return RegionFollower::from(
            $source,
            $start,
            $region,
            count($motion->look->spots) === 1 ? Model::Position : $motion->model,
            self::view($area, $region->bounds(), $start, $motions, $source->frame()->height),
            self::byHand($area, $motion, $start, $motions),
        );
    }

    /** Whether landmarks of faces help to follow an area. */
    public static function usesFaces(Area $area, ?Shape $shape): bool
    {
        return $shape === null
            && (in_array($area->motion->model, [Model::Outline, Model::Iris], true)
                ? $area->is(Part::Lids, Part::Lips, Part::Teeth, Part::Iris)
                : $area->is(Part::Face));
    }

    private static function carrier(Area $area, int $start, Motions $motions, ?FaceSource $faces): ?Carrier
    {
        $head = HeadCarrier::of($area, $start, $motions);
        if ($faces === null) {
            return $head;
        }

        return FaceCarrier::of($area, AreaExtent::of($area, $start, $motions)->centre(), $faces, $start, $head) ?? $head;
    }

    /**
     * Where the corrections of a motion put the region on their frames, from where it is on the start frame.
     *
     * @return (\Closure(int, Matrix): (Matrix|null))|null
     */
    private static function byHand(Area $area, Motion $motion, int $start, Motions $motions): ?\Closure
    {
        $frames = array_flip(array_column($motion->keys, 'frame'));
        if ($frames === []) {
            return null;
        }
        $under = $motions->uncorrected($area, $motion, $start);
        $back = Motions::correction($motion, $start, $under)->times($under)->inverse();

        return static function (int $frame, Matrix $found) use ($frames, $motion, $under, $back): ?Matrix {
            $now = $found->times($under);

            return isset($frames[$frame]) ? Motions::correction($motion, $frame, $now)->times($now)->times($back) : null;
        };
    }

    /** A face is taken for a head, by its person's eyes and mouth where they are outlined; what is on no head for a dome. */
    private static function view(Area $area, Rect $bounds, int $start, Motions $motions, int $height): ?SurfaceView
    {
        if ($bounds->isEmpty()) {
            return null;
        }
        $marks = $area->is(Part::Face) ? $motions->marks($area, $start) : null;
        if ($marks !== null) {
            [$eyes, $mouth, $apart] = $marks;
            $pixels = static fn(array $p): array => [$p[0] * $height, $p[1] * $height];

            return SurfaceView::head($pixels($eyes), $pixels($mouth), $apart * $height);
        }
        // What is wider than high is no whole face.
        $isHead = !$area->is(Part::Neck, Part::Iris, Part::Eye, Part::Lids, Part::Whites, Part::Lips, Part::Teeth);
        $surface = $isHead && $bounds->height >= $bounds->width ? Surface::head() : Surface::dome();

        return SurfaceView::in($surface, $bounds->x, $bounds->y, $bounds->width, $bounds->height);
    }

    /** Round spots as an outline to look at. */
    private static function spots(int $at, Look $look): Outline
    {
        return new Outline(
            $at,
            array_map(static fn(array $spot): Ellipse => new Ellipse('spot', $spot, [$look->radius, $look->radius]), $look->spots),
        );
    }
}
