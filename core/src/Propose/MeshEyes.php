<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Ring;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Picture\Rect;

/**
 * What a mesh says of eyes that were looked for in the picture: what agrees with it stays as it was seen; where the picture did not
 * tell, as on soft or noisy footage, the mesh says where the eye is, and the picture's edges near that say it exactly. Pixels.
 */
final class MeshEyes
{
    /** How far from the mesh's a circle is looked for, in radii of that, and by which share it may be larger or smaller. */
    private const NEAR = 0.5;
    private const LARGER = 1.3;
    /** Sizes that are looked for, in radii of the mesh's: an edge is found from so far. */
    private const SIZES = [0.85, 1.0, 1.18];
    /** How far lids may be from the mesh's on the mean, in radii of the iris. */
    private const LIDS_NEAR = 0.35;
    /** Lids nearer than this, in lengths of the eye, are closed. */
    private const CLOSED = 0.13;
    private const SHUT = 'the eye is closed';
    /** The same where the picture shows no round edge of an iris. */
    private const NARROW = 0.2;
    /** An eye that is less than this share as long as the other is turned away. */
    private const TURNED = 0.35;
    /** How much lighter it is round an iris whose edge says nothing of its middle, and says all, R'G'B'. */
    private const CLEAR = [0.03, 0.12];

    /**
     * The irises as they are seen near where the mesh has them: elsewhere nothing is believed that looks like one.
     *
     * @return array{IrisCircle|null, IrisCircle|null} of the person's left and right eye
     */
    public static function irises(FrameSource $source, int $frame, Mesh $mesh): array
    {
        $near = static function (bool $left) use ($source, $frame, $mesh): ?IrisCircle {
            $there = self::there($source, $mesh, $left);
            $best = null;
            foreach (self::SIZES as $size) {
                $found = IrisCircle::near($source, $frame, $there->x, $there->y, $size * $there->radius, self::NEAR * $there->radius);
                $best = $found !== null && $found->likeness > ($best->likeness ?? 0.0) ? $found : $best;
            }

            return $best;
        };

        return [$near(true), $near(false)];
    }

    /**
     * @param array{Eye, Eye} $seen the person's left, right, with the irises that are seen near the mesh's
     *
     * @return array{Eye, Eye}
     */
    public static function said(FrameSource $source, int $frame, Mesh $mesh, array $seen): array
    {
        $eyes = [self::one($source, $frame, $mesh, $seen[0]), self::one($source, $frame, $mesh, $seen[1])];
        foreach ($eyes as $k => $eye) {
            // Eyes blink together, unless the picture clearly shows the other one open.
            if ($eyes[1 - $k]->doubt === self::SHUT && !$seen[$k]->sure()) {
                $eyes[$k] = $eye->doubted(self::SHUT);
            }
        }

        return [$eyes[0], $eyes[1]];
    }

    private static function one(FrameSource $source, int $frame, Mesh $mesh, Eye $eye): Eye
    {
        $there = self::there($source, $mesh, $eye->left);
        if ($eye->iris === null || !self::agree($eye->iris, $there)) {
            return self::seen($source, $frame, $mesh, $eye, $there);
        }

        // A faint edge says less of where the middle is than the mesh does.
        return $eye->sure() && self::CLEAR[1] <= $eye->iris->step
            ? $eye
            : self::seen($source, $frame, $mesh, $eye, self::mixed($eye->iris, $there));
    }

    private static function there(FrameSource $source, Mesh $mesh, bool $left): IrisCircle
    {
        $height = $source->frame()->height;
        [$x, $y, $radius] = $mesh->iris($left);

        return IrisCircle::told($x * $height, $y * $height, $radius * $height);
    }

    private static function mixed(IrisCircle $found, IrisCircle $there): IrisCircle
    {
        return $found->mixed($there, 1.0 - max(0.0, min(1.0, ($found->step - self::CLEAR[0]) / (self::CLEAR[1] - self::CLEAR[0]))));
    }

    private static function seen(FrameSource $source, int $frame, Mesh $mesh, Eye $eye, IrisCircle $iris): Eye
    {
        $height = $source->frame()->height;
        [$x, $y, $radius] = [$iris->x, $iris->y, $iris->radius];
        $lids = Lids::round($source, $frame, $iris, $eye->tilt);
        $new = new Eye($eye->left, $iris, $lids, $eye->tilt, null, true);
        $isNear = $lids->sure > Eyes::PARTED && self::apart($new, $mesh, $height) < self::LIDS_NEAR * $iris->radius;
        $round = Rect::around($x - $radius, $y - $radius, $x + $radius, $y + $radius);
        $isSeen = $eye->iris !== null && $eye->iris->likeness >= Eyes::ROUND;
        $doubt = match (true) {
            self::length($mesh, $eye->left) < self::TURNED * self::length($mesh, !$eye->left) => 'the eye is turned away',
            $mesh->lidsApart($eye->left) < ($isSeen ? self::CLOSED : self::NARROW) => self::SHUT,
            !$source->frame()->contains($round) => 'part of the eye is outside the frame',
            default => null,
        };

        return new Eye($eye->left, $iris, $isNear ? $lids : null, $eye->tilt, $doubt, $doubt === null);
    }

    private static function agree(IrisCircle $one, IrisCircle $there): bool
    {
        return max($one->radius, $there->radius) < self::LARGER * min($one->radius, $there->radius);
    }

    /** Mean distance of lids from those of the mesh, pixels. */
    private static function apart(Eye $eye, Mesh $mesh, int $height): float
    {
        $ring = $mesh->along(Ring::lids($eye->left));
        $sum = 0.0;
        $places = [];
        foreach ([0.0, 0.25, 0.5, 0.75, 1.0] as $t) {
            array_push($places, $eye->lidAt($t, true), $eye->lidAt($t, false));
        }
        foreach ($places as [$x, $y]) {
            $sum += min(array_map(static fn(array $p): float => hypot($p[0] * $height - $x, $p[1] * $height - $y), $ring));
        }

        return $sum / count($places);
    }

    private static function length(Mesh $mesh, bool $left): float
    {
        [[$ax, $ay], [$bx, $by]] = $mesh->corners($left);

        return hypot($bx - $ax, $by - $ay);
    }
}
