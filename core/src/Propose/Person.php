<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Motion\PathEdge;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Shape;

/**
 * Makes the areas of a person from the landmarks of the face: smooth paths through the points, drawn to the picture's own
 * edges where it shows them, with margins for feathering. Ordinary areas, to be corrected like any other; the parts ride
 * on the face. First file to read of this folder.
 */
final class Person
{
    /** From the landmarks to the skin's own border, in shares of the face's width. */
    private const FACE_MARGIN = 0.03;
    /** The forehead reaches so far above the brows, in shares of the way from the chin to them. */
    private const FOREHEAD = 0.3;
    /** Furthest a lip's and a lid's edge is looked for in one round, in shares of the face's width. */
    private const LIP_REACH = 0.035;
    private const LID_REACH = 0.02;
    /** A mouth is open when its opening is higher than this, in shares of the face's width. */
    private const OPEN = 0.06;
    /** An iris' radius as a share of the eye's width, to begin with. */
    private const IRIS = 0.235;
    /** Furthest an iris is looked for from the middle of the lids, in shares of the eye's width. */
    private const GLANCE = 0.3;

    private readonly float $height;

    private function __construct(
        private readonly FrameSource $source,
        private readonly Landmarks $face,
        private readonly int $frame,
        private readonly Live $live,
        private readonly ?string $person,
    ) {
        $this->height = $source->frame()->height;
    }

    /**
     * @param string|null            $person slug of the person they belong to
     * @param callable(string): string $id   a free id that begins with the given letter
     *
     * @return list<Area> the face first, parts riding on it after
     */
    public static function areas(FrameSource $source, Landmarks $face, int $frame, Live $live, ?string $person, callable $id): array
    {
        $self = new self($source, $face, $frame, $live, $person);
        $head = $id('a');
        $areas = [$self->area($head, 'Face', Part::Face, [$self->oval($id('s'))], new Motion(pivot: $face->eyes()))];
        foreach ([[true, 'Left'], [false, 'Right']] as [$left, $side]) {
            $lids = $id('a');
            $areas[] = $self->area(
                $lids,
                "{$side} lids",
                Part::Lids,
                [$self->settled($self->path($id('s'), $face->lids($left), [0, 3], 0.0, 0.004), self::LID_REACH)],
                self::ride($head, Landmarks::middle($face->lids($left))),
            );
            $iris = $self->iris($id('s'), $left);
            $areas[] = $self->area(
                $id('a'),
                "{$side} iris",
                Part::Iris,
                [$iris, new AreaShape($id('s'), $lids, join: Join::Keep)],
                self::ride($head, $iris->centre),
            );
        }
        $mouth = Landmarks::middle($face->outerLips());
        $outer = $self->settled($self->path($id('s'), $face->outerLips(), [0, 6], 0.002, 0.006), self::LIP_REACH);
        $areas[] = $self->area(
            $id('a'),
            'Lips',
            Part::Lips,
            [$outer, $self->opening($id('s'), 0.0, 0.003, Join::Cut)],
            self::ride($head, $mouth),
        );
        $areas[] = $self->area(
            $id('a'),
            'Teeth',
            Part::Teeth,
            [$self->opening($id('s'), 0.002, 0.004, Join::Add)],
            self::ride($head, $mouth),
        );
        $neck = $self->neck($id('s'));
        $areas[] = $self->area($id('a'), 'Neck', Part::Neck, [$neck], self::ride($head, $neck->centre));

        return $areas;
    }

    /** @param list<Shape> $shapes */
    private function area(string $id, string $name, Part $part, array $shapes, Motion $motion): Area
    {
        return new Area(
            $id,
            $name,
            $part->value,
            $this->person,
            true,
            new Outline($this->frame, $shapes),
            $motion,
            $this->live,
            new Keyed(1.0),
            new BlinkGuard(),
            [],
        );
    }

    /** @param array{float, float} $pivot */
    private static function ride(string $on, array $pivot): Motion
    {
        return new Motion(Motion::RIDE, pivot: self::rounded($pivot), on: $on);
    }

    /** The face's oval: along the jaw, and over the forehead in the same breadth. */
    private function oval(string $id): Path
    {
        $jaw = $this->face->jaw();
        [$cx, $cy] = $this->face->chin();
        [$bx, $by] = $this->face->brows();
        $up = [($bx - $cx) * self::FOREHEAD, ($by - $cy) * self::FOREHEAD];
        $points = array_map(static fn(int $i): array => $jaw[$i], [0, 2, 4, 6, 8, 10, 12, 14, 16]);
        // From one temple over the hairline to the other: half an ellipse on the line between the ears.
        [$left, $right] = [$jaw[16], $jaw[0]];
        foreach ([30, 65, 90, 115, 150] as $angle) {
            $c = cos(deg2rad($angle));
            $s = sin(deg2rad($angle));
            $points[] = [
                ($left[0] + $right[0]) / 2 + $c * ($left[0] - $right[0]) / 2 + $s * ($bx - ($left[0] + $right[0]) / 2 + $up[0]),
                ($left[1] + $right[1]) / 2 + $c * ($left[1] - $right[1]) / 2 + $s * ($by - ($left[1] + $right[1]) / 2 + $up[1]),
            ];
        }

        return new Path($id, self::smooth($points, []), 0.01, 0.04, self::FACE_MARGIN * $this->face->width());
    }

    /** The opening of the mouth, drawn to its edge where it is wide enough to have one. */
    private function opening(string $id, float $featherIn, float $featherOut, Join $join): Path
    {
        $lips = $this->face->innerLips();
        $path = $this->path($id, $lips, [0, 4], $featherIn, $featherOut, $join);
        $open = hypot($lips[6][0] - $lips[2][0], $lips[6][1] - $lips[2][1]) > self::OPEN * $this->face->width();

        return $open ? $this->settled($path, self::LIP_REACH) : $path;
    }

    /** The iris where its round edge is seen, else where it would be between the lids. */
    private function iris(string $id, bool $left): Ellipse
    {
        $lids = $this->face->lids($left);
        [$x, $y] = Landmarks::middle($lids);
        $wide = hypot($lids[3][0] - $lids[0][0], $lids[3][1] - $lids[0][1]);
        $radius = self::IRIS * $wide;
        $found = IrisCircle::near(
            $this->source,
            $this->frame,
            $x * $this->height,
            $y * $this->height,
            $radius * $this->height,
            self::GLANCE * $wide * $this->height,
        );
        if ($found !== null) {
            [$x, $y, $radius] = array_map(fn(float $v): float => $v / $this->height, $found);
        }

        return new Ellipse($id, self::rounded([$x, $y]), self::rounded([$radius, $radius]), 0.0, 0.003, 0.002);
    }

    private function neck(string $id): Ellipse
    {
        [$x, $y] = $this->face->chin();
        $width = $this->face->width();
        $down = deg2rad($this->face->tilt() + 90);

        return new Ellipse(
            $id,
            self::rounded([$x + 0.28 * $width * cos($down), $y + 0.28 * $width * sin($down)]),
            self::rounded([0.36 * $width, 0.3 * $width]),
            round($this->face->tilt(), 3),
            0.02,
            0.05,
        );
    }

    /**
     * @param list<array{float, float}> $points
     * @param list<int>                 $corners indices of points without handles
     */
    private function path(string $id, array $points, array $corners, float $featherIn, float $featherOut, Join $join = Join::Add): Path
    {
        return new Path($id, self::smooth($points, $corners), $featherIn, $featherOut, join: $join);
    }

    /**
     * The path drawn to the edge it lies along, where there is one.
     *
     * @param float $reach of the search, in shares of the face's width
     */
    private function settled(Path $path, float $reach): Path
    {
        $toPixels = Matrix::of([$this->height, 0, 0, 0, $this->height, 0, 0, 0, 1]);
        $settled = PathEdge::settled(
            $this->source,
            $this->frame,
            array_map(static fn(PathPoint $p): PathPoint => $p->moved($toPixels), $path->points),
            max(3, (int) ($reach * $this->face->width() * $this->height)),
        );
        $back = $toPixels->inverse();
        $points = array_map(static function (PathPoint $p) use ($back): PathPoint {
            $q = $p->moved($back);

            return new PathPoint(
                ...array_map(static fn(float $v): float => round($v, 6), [$q->x, $q->y, $q->inX, $q->inY, $q->outX, $q->outY]),
            );
        }, $settled);

        return new Path($path->id, $points, $path->featherIn, $path->featherOut, $path->grow, $path->opacity, $path->join);
    }

    /**
     * A smooth closed path through points: each point's handles lie along its neighbours (Catmull and Rom, 1974).
     *
     * @param list<array{float, float}> $points
     * @param list<int>                 $corners
     *
     * @return list<PathPoint>
     */
    private static function smooth(array $points, array $corners): array
    {
        $n = count($points);
        $path = [];
        foreach ($points as $i => [$x, $y]) {
            [$px, $py] = $points[($i + $n - 1) % $n];
            [$qx, $qy] = $points[($i + 1) % $n];
            $hx = in_array($i, $corners, true) ? 0.0 : ($qx - $px) / 6;
            $hy = in_array($i, $corners, true) ? 0.0 : ($qy - $py) / 6;
            $path[] = new PathPoint(...array_map(static fn(float $v): float => round($v, 6), [$x, $y, -$hx, -$hy, $hx, $hy]));
        }

        return $path;
    }

    /**
     * @param array{float, float} $pair
     *
     * @return array{float, float}
     */
    private static function rounded(array $pair): array
    {
        return [round($pair[0], 6), round($pair[1], 6)];
    }
}
