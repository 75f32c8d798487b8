<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;
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
    /**
     * Points of a mesh along the jaw from one angle to the other, and how long and wide a neck is under them, in sizes of the face and
     * widths of the jaw.
     */
    private const JAW = [58, 136, 149, 152, 378, 365, 288];
    private const NECK_LONG = 0.42;
    private const NECK_WIDE = 0.86;
    /** Where a neck is looked at, across it and down, and the share of places down it that must be skin. */
    private const MOSTLY = 0.5;
    private const ACROSS = [0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0];
    private const DOWN = [0.3, 0.45, 0.6, 0.75];
    /** By how many spreads lips must stand out where the face does not look like one skin. */
    private const CLEAR = 3.5;

    private readonly Landmarks $marks;

    /** @param callable(string): string $id */
    public function __construct(FrameSource $source, private readonly Face $face, int $frame, Live $live, callable $id)
    {
        parent::__construct($source, $frame, $live, $id(...));
        $this->marks = $face->marks;
    }

    public function proposed(): FoundPerson
    {
        $head = ($this->id)('a');
        $oval = $this->oval(($this->id)('s'));
        $proposed = [$this->area($head, 'Face', Part::Face, [$oval], new Motion(pivot: $this->marks->eyes()), $this->faceDoubt($oval))];
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

        return new FoundPerson(true, $this->box($oval), array_values(array_filter($proposed, $this->isInside(...))), $this->marks->mesh);
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
            $shape instanceof Path => array_map(static fn(PathPoint $p): array => [$p->x, $p->y], $shape->points),
            $shape instanceof Ellipse => [$shape->centre],
            default => [],
        };

        return $places === [] || $this->shareInside($places) >= 0.5;
    }

    /** @param non-empty-list<array{float, float}> $places */
    private function shareInside(array $places): float
    {
        $wide = $this->source->frame()->width / $this->height;
        $inside = array_filter($places, static fn(array $p): bool => $p[0] >= 0 && $p[1] >= 0 && $p[0] <= $wide && $p[1] <= 1);

        return count($inside) / count($places);
    }

    private function faceDoubt(Path $oval): ?string
    {
        $places = array_map(static fn(PathPoint $p): array => [$p->x, $p->y], $oval->points);

        return match (true) {
            $places !== [] && $this->shareInside($places) < 0.6 => 'much of the face is outside the frame',
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
        return $this->marks->mesh === null ? $this->roundNeck($head) : $this->neckUnder($this->marks->mesh, $head);
    }

    /** Between the angles of the jaw and along it, and down from there. */
    private function neckUnder(Mesh $mesh, string $head): Proposal
    {
        $down = deg2rad($this->marks->tilt() + 90);
        $long = self::NECK_LONG * $mesh->size();
        [$dx, $dy] = [$long * cos($down), $long * sin($down)];
        $jaw = array_map($mesh->at(...), self::JAW);
        [$cx, $cy] = Landmarks::middle([$jaw[0], $jaw[count($jaw) - 1]]);
        $narrow = static fn(array $p, float $far): array => [
            $cx + self::NECK_WIDE * ($p[0] - $cx) + $far * $dx,
            $cy + self::NECK_WIDE * ($p[1] - $cy) + $far * $dy,
        ];
        $sides = [$narrow($jaw[0], 0.25), $narrow($jaw[count($jaw) - 1], 0.25)];
        $at = static fn(float $across, float $far): array => [
            $sides[0][0] + $across * ($sides[1][0] - $sides[0][0]) + $far * $dx,
            $sides[0][1] + $across * ($sides[1][1] - $sides[0][1]) + $far * $dy,
        ];
        // Hair or a collar may lie over its sides: it is as wide as skin is seen beside its middle.
        $column = static fn(float $across): array => array_map(static fn(float $far): array => $at($across, $far), self::DOWN);
        $isSkin = fn(float $across): bool => $this->face->skinAt($column($across)) >= self::MOSTLY;
        [$from, $to] = self::around($isSkin);
        [$left, $right] = [$at($from, 0.0), $at($to, 0.0)];
        [$wx, $wy] = [$sides[1][0] - $sides[0][0], $sides[1][1] - $sides[0][1]];
        $square = max(1e-9, $wx * $wx + $wy * $wy);
        $across = static fn(array $p): float => (($p[0] - $sides[0][0]) * $wx + ($p[1] - $sides[0][1]) * $wy) / $square;
        $isBetween = static fn(array $p): bool => $across($p) > $from + 0.05 && $across($p) < $to - 0.05;
        $between = array_values(array_filter($jaw, $isBetween));
        $points = [$left, ...$between, $right, $at($to, 1.0), $at($from, 1.0)];
        $neck = new Path(($this->id)('s'), Smooth::path($points, []), 0.01, 0.03);
        $doubt = $to - $from < self::BARE_NECK ? 'hardly any skin is seen under the chin' : null;
        $motion = self::ride($head, $at(($from + $to) / 2, 0.5), [Channel::Position, Channel::Rotation, Channel::Scale]);

        return $this->area(($this->id)('a'), 'Neck', Part::Neck, [$neck], $motion, $doubt);
    }

    /**
     * The run of places from one side of a neck to the other that passes, round the one nearest to its middle that does.
     *
     * @param \Closure(float): bool $passes
     *
     * @return array{float, float} the whole where none does
     */
    private static function around(\Closure $passes): array
    {
        $good = array_values(array_filter(self::ACROSS, $passes));
        usort($good, static fn(float $a, float $b): int => abs($a - 0.5) <=> abs($b - 0.5));
        if ($good === [] || abs($good[0] - 0.5) > 0.25) {
            return [0.4, 0.6];
        }
        [$from, $to] = [$good[0], $good[0]];
        $step = self::ACROSS[1] - self::ACROSS[0] + 1e-6;
        foreach ($good as $across) {
            $from = $from - $across > 0 && $from - $across < $step ? $across : $from;
            $to = $across - $to > 0 && $across - $to < $step ? $across : $to;
        }

        return [$from, $to];
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
        $doubt = $this->face->skinAt(self::spread($centre, $width)) < self::BARE_NECK ? 'hardly any skin is seen under the chin' : null;

        // A neck moves and grows with the head, but does not turn as it does.
        $motion = self::ride($head, $centre, [Channel::Position, Channel::Rotation, Channel::Scale]);

        return $this->area(($this->id)('a'), 'Neck', Part::Neck, [$neck], $motion, $doubt);
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
    private function box(Path $oval): array
    {
        $xs = array_map(static fn(PathPoint $p): float => $p->x, $oval->points);
        $ys = array_map(static fn(PathPoint $p): float => $p->y, $oval->points);

        return $xs === [] || $ys === [] ? [0.0, 0.0, 0.0, 0.0] : [min($xs), min($ys), max($xs) - min($xs), max($ys) - min($ys)];
    }
}
