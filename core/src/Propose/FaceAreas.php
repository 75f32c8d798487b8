<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Ring;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;

/** The areas of a face. */
final class FaceAreas extends Areas
{
    /** From the landmarks to the skin's own border, in shares of the face's width. */
    private const FACE_MARGIN = 0.03;
    private const MESH_MARGIN = 0.01;
    /** Points of a face's outline. */
    private const POINTS = 16;
    /** The forehead reaches so far above the brows, in shares of the way from the chin to them. */
    private const FOREHEAD = 0.3;
    /** Furthest a lid's edge is looked for in one round, in shares of the face's width, where the eye itself was not found. */
    private const LID_REACH = 0.02;
    /** Share of a face, and of a neck, that must look like one skin. */
    private const ONE_SKIN = 0.62;
    private const BARE_NECK = 0.3;
    /** Where a neck is looked for aside of the chin, in shares of the face's width. */
    private const NECKS = [0.0, -0.12, 0.12, -0.24, 0.24, -0.36, 0.36];
    /** By how many spreads lips must stand out where the face does not look like one skin. */
    private const CLEAR = 3.5;

    /** Share of its outline that must be inside the frame. */
    private const WHOLE = 0.6;

    private readonly Landmarks $marks;
    private readonly Path $oval;

    /** @param callable(string): string $id */
    public function __construct(FrameSource $source, private readonly Face $face, int $frame, Live $live, callable $id)
    {
        parent::__construct($source, $frame, $live, $id(...));
        $this->marks = $face->marks;
        $this->oval = $this->oval(($this->id)('s'));
    }

    /** Whether enough of the face is inside the frame to carry what is in it. */
    public function isSeenWhole(): bool
    {
        return $this->shareInside(self::placesOf($this->oval)) >= self::WHOLE;
    }

    public function proposed(): FoundPerson
    {
        $head = ($this->id)('a');
        $face = $this->area($head, 'Face', Part::Face, [$this->oval], new Motion(pivot: $this->marks->eyes()), $this->faceDoubt());
        $proposed = [];
        foreach ($this->face->eyes as $eye) {
            array_push($proposed, ...$this->eye($eye, $head, $eye->sure() && $eye->lids !== null ? null : $this->landmarked($eye->left)));
        }
        $mouth = $this->face->mouth;
        $at = self::ride($head, Landmarks::middle($this->marks->outerLips()));
        $hidden = $mouth->apart < self::CLEAR && $this->face->oneSkin < self::ONE_SKIN ? 'something may be before the mouth' : null;
        $mouthDoubt = $mouth->doubt ?? $hidden;
        $opening = array_map($this->shrunk(...), $mouth->opening);
        $lips = [
            new Path(($this->id)('s'), array_map($this->shrunk(...), $mouth->lips), 0.002, 0.006),
            new Path(($this->id)('s'), $opening, 0.0, 0.003, join: Join::Cut),
        ];
        $proposed[] = $this->area(($this->id)('a'), 'Lips', Part::Lips, $lips, $at, $mouthDoubt);
        $teeth = new Path(($this->id)('s'), $opening, 0.002, 0.004);
        $proposed[] = $this->area(($this->id)('a'), 'Teeth', Part::Teeth, [$teeth], $at, $mouthDoubt ?? $mouth->closed);
        $proposed[] = $this->neck($head);

        $inside = array_values(array_filter($proposed, $this->isInside(...)));

        $mesh = $this->marks->mesh;
        $more = [];
        if ($mesh?->isSure() && $face->doubt === null) {
            $parts = new SkinParts($this->source, $mesh, $this->frame, $this->live, $this->id);
            $people = new PeopleAreas($this->source, $this->frame, $this->live, $this->id);
            $more = [...$parts->proposed($face->area, $inside, $this->withForehead(...)), ...$people->proposed($mesh)];
        }

        return new FoundPerson(true, self::box($this->oval), [$face, ...$inside], $mesh, $more);
    }

    /** The lids by the landmarks, drawn to their edge where there is one. */
    private function landmarked(bool $left): Path
    {
        if ($this->marks->mesh !== null) {
            $ring = $this->marks->mesh->along(Ring::lids($left));
            $points = array_map(static fn(int $i): array => $ring[$i], range(0, 14, 2));

            return new Path(($this->id)('s'), Smooth::path($points, [0, 4]), 0.0, 0.004);
        }
        $lids = new Path(($this->id)('s'), Smooth::path($this->marks->lids($left), [0, 3]), 0.0, 0.004);

        return $this->settled($lids, self::LID_REACH * $this->marks->width() * $this->height);
    }

    /** What lies outside the frame for the most part is not proposed. */
    private function isInside(Proposal $proposal): bool
    {
        $shape = $proposal->area->outline->shapes[0];
        $places = match (true) {
            // A neck begins at the chin: half-way down it must be seen.
            $proposal->area->is(Part::Neck) => [$proposal->area->motion->pivot],
            $shape instanceof Path => self::placesOf($shape),
            $shape instanceof Ellipse => [$shape->centre],
            default => [],
        };

        return $this->shareInside($places) >= 0.5;
    }

    /** @return list<array{float, float}> */
    private static function placesOf(Path $path): array
    {
        return array_map(static fn(PathPoint $p): array => [$p->x, $p->y], $path->points);
    }

    /** @param list<array{float, float}> $places */
    private function shareInside(array $places): float
    {
        $wide = $this->source->frame()->width / $this->height;
        $inside = array_filter($places, static fn(array $p): bool => $p[0] >= 0 && $p[1] >= 0 && $p[0] <= $wide && $p[1] <= 1);

        return $places === [] ? 1.0 : count($inside) / count($places);
    }

    private function faceDoubt(): ?string
    {
        return match (true) {
            !$this->isSeenWhole() => 'much of the face is outside the frame',
            $this->marks->mesh?->isSure() === false => 'it hardly looks like a face: something may be before it',
            $this->face->oneSkin < self::ONE_SKIN => 'it does not look like one skin all over: something is before it',
            default => null,
        };
    }

    /** The face's oval: along the jaw, and over the forehead in the same breadth. */
    private function oval(string $id): Path
    {
        if ($this->marks->mesh !== null) {
            $outline = Smooth::path($this->withForehead($this->marks->mesh->outline(self::POINTS)), []);

            return new Path($id, $outline, 0.01, 0.04, self::MESH_MARGIN * $this->marks->width());
        }
        $jaw = $this->marks->jaw();
        [$cx, $cy] = $this->marks->chin();
        [$bx, $by] = $this->marks->brows();
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

        return new Path($id, Smooth::path($points, []), 0.01, 0.04, self::FACE_MARGIN * $this->marks->width());
    }

    /**
     * A mesh ends on the forehead, skin at the hairline: what lies above the brows goes up as far as foreheads usually do.
     *
     * @param list<array{float, float}> $outline
     *
     * @return list<array{float, float}>
     */
    private function withForehead(array $outline): array
    {
        [$cx, $cy] = $this->marks->chin();
        [$bx, $by] = $this->marks->brows();
        $long = max(1e-6, hypot($bx - $cx, $by - $cy));
        [$ux, $uy] = [($bx - $cx) / $long, ($by - $cy) / $long];
        $above = static fn(array $p): float => ($p[0] - $bx) * $ux + ($p[1] - $by) * $uy;
        $highest = max([1e-6, ...array_map($above, $outline)]);
        $more = max(1.0, self::FOREHEAD * $long / $highest) - 1.0;

        return array_map(static function (array $p) use ($above, $more, $ux, $uy): array {
            $up = $more * max(0.0, $above($p));

            return [$p[0] + $up * $ux, $p[1] + $up * $uy];
        }, $outline);
    }

    private function neck(string $head): Proposal
    {
        $mesh = $this->marks->mesh;
        if ($mesh === null) {
            return $this->roundNeck($head);
        }
        $neck = Neck::under($mesh, $this->marks->tilt(), $this->face->skinAt(...));
        $path = new Path(($this->id)('s'), Smooth::path($neck->points, [0, count($neck->points) - 3]), 0.01, 0.03);

        return $this->neckArea($head, $path, $neck->middle, $neck->bare);
    }

    /**
     * @param array{float, float} $pivot
     * @param float               $bare  how much of it looks like skin
     */
    private function neckArea(string $head, Path|Ellipse $shape, array $pivot, float $bare): Proposal
    {
        $doubt = $bare < self::BARE_NECK ? 'hardly any skin is seen under the chin' : null;
        // A neck moves and grows with the head, but does not turn as it does.
        $motion = self::ride($head, $pivot, [Channel::Position, Channel::Rotation, Channel::Scale]);

        return $this->area(($this->id)('a'), 'Neck', Part::Neck, [$shape], $motion, $doubt);
    }

    private function roundNeck(string $head): Proposal
    {
        [$x, $y] = $this->marks->chin();
        $width = $this->marks->width();
        $down = deg2rad($this->marks->tilt() + 90);
        $at = static fn(float $aside): array => [
            $x + $width * (0.28 * cos($down) + $aside * sin($down)),
            $y + $width * (0.28 * sin($down) - $aside * cos($down)),
        ];
        $shares = array_map(fn(float $aside): float => $this->face->skinAt(self::spread($at($aside), $width)), self::NECKS);
        // A turned head does not stand over the middle of its neck: it lies where far more skin is.
        $most = (int) array_search(max($shares), $shares, true);
        $centre = self::rounded($at($shares[0] < self::BARE_NECK && $shares[$most] > 2 * $shares[0] ? self::NECKS[$most] : 0.0));
        $radii = self::rounded([0.36 * $width, 0.3 * $width]);
        $neck = new Ellipse(($this->id)('s'), $centre, $radii, round($this->marks->tilt(), 3), 0.02, 0.05);

        return $this->neckArea($head, $neck, $centre, $this->face->skinAt(self::spread($centre, $width)));
    }

    /**
     * @param array{float, float} $centre
     *
     * @return non-empty-list<array{float, float}> places all over a neck
     */
    private static function spread(array $centre, float $width): array
    {
        $places = [$centre];
        for ($i = -3; $i <= 3; ++$i) {
            for ($j = -2; $j <= 3; ++$j) {
                $places[] = [$centre[0] + 0.08 * $i * $width, $centre[1] + 0.06 * $j * $width];
            }
        }

        return $places;
    }

    /** @return array{float, float, float, float} */
    private static function box(Path $oval): array
    {
        $xs = array_map(static fn(PathPoint $p): float => $p->x, $oval->points);
        $ys = array_map(static fn(PathPoint $p): float => $p->y, $oval->points);

        return $xs === [] || $ys === [] ? [0.0, 0.0, 0.0, 0.0] : [min($xs), min($ys), max($xs) - min($xs), max($ys) - min($ys)];
    }
}
