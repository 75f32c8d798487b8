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
    /** How far a circle may be from the mesh's, in radii of that, and by which share larger or smaller. */
    private const NEAR = 0.5;
    private const LARGER = 1.3;
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
     * @param array{Eye, Eye} $seen the person's left, right
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
        $height = $source->frame()->height;
        [$x, $y, $radius] = array_map(static fn(float $v): float => $v * $height, $mesh->iris($eye->left));
        $there = IrisCircle::told($x, $y, $radius);
        if ($eye->sure() && $eye->iris !== null && self::agree($eye->iris, $there)) {
            // A faint edge says less of where the middle is than the mesh does.
            return self::CLEAR[1] <= $eye->iris->step ? $eye : self::seen($source, $frame, $mesh, $eye, self::mixed($eye->iris, $there));
        }
        $found = IrisCircle::near($source, $frame, $x, $y, $radius, self::NEAR * $radius);

        $isFound = $found !== null && self::agree($found, $there);

        return self::seen($source, $frame, $mesh, $eye, $isFound ? self::mixed($found, $there) : $there);
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
        return hypot($one->x - $there->x, $one->y - $there->y) < self::NEAR * $there->radius
            && max($one->radius, $there->radius) < self::LARGER * min($one->radius, $there->radius);
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
