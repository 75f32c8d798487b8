<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Rect;

/** What a spot is covered with: the picture at an offset from it. */
final readonly class Patch
{
    /** Sigma in pixels of what place and patch are softened by before they are compared. */
    public const SOFT = 1.0;

    /**
     * @param Rect  $around the spot with the ring on which place and patch are compared, inside the frame
     * @param int   $dx     from the spot to the patch, pixels
     * @param float $fit    how far the patch is fitted to the place
     * @param float $limit  how far only what is unlike the ring is covered
     */
    public function __construct(public Rect $around, public int $dx, public int $dy, public float $fit, public float $limit) {}

    /** What of the picture it takes to cover a rectangle. */
    public function needs(Rect $rect): Rect
    {
        $wide = $this->compared($rect);

        return $wide->union($wide->moved($this->dx, $this->dy));
    }

    /** Over what place and patch are compared to cover a rectangle. */
    public function compared(Rect $rect): Rect
    {
        return $this->limit > 0.0 ? $rect->grow(Gaussian::reach(self::SOFT)) : $rect;
    }

    /**
     * A channel over a rectangle seen from an offset; beyond the values their edge goes on.
     *
     * @param list<float> $v
     * @param float       $dx between pixels it is read bilinearly
     *
     * @return list<float>
     */
    public static function seen(array $v, Rect $from, Rect $rect, float $dx, float $dy): array
    {
        [$wx, $wy] = [(int) floor($dx), (int) floor($dy)];
        [$fx, $fy] = [$dx - $wx, $dy - $wy];
        $columns = $beside = $out = [];
        for ($x = $rect->x; $x < $rect->right(); ++$x) {
            $columns[] = max($from->x, min($from->right() - 1, $x + $wx)) - $from->x;
            $beside[] = max($from->x, min($from->right() - 1, $x + $wx + 1)) - $from->x;
        }
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            $row = (max($from->y, min($from->bottom() - 1, $y + $wy)) - $from->y) * $from->width;
            if ($fx === 0.0 && $fy === 0.0) {
                foreach ($columns as $c) {
                    $out[] = $v[$row + $c];
                }
                continue;
            }
            $below = (max($from->y, min($from->bottom() - 1, $y + $wy + 1)) - $from->y) * $from->width;
            foreach ($columns as $x => $c) {
                $top = $v[$row + $c] + ($v[$row + $beside[$x]] - $v[$row + $c]) * $fx;
                $out[] = $top + ($v[$below + $c] + ($v[$below + $beside[$x]] - $v[$below + $c]) * $fx - $top) * $fy;
            }
        }

        return $out;
    }
}
