<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** A textured ball that turns about the vertical before a background that stays; 60 pixels in radius, in the middle of 240 x 160. */
final class TurningBall implements FrameSource
{
    public const RADIUS = 60.0;

    /**
     * @param \Closure(int): float      $angle radians, 0 on frame 0
     * @param \Closure(float): float|null $rough how much texture there is, by the place along the unrolled ball, in pixels
     */
    public function __construct(private readonly \Closure $angle, private readonly ?\Closure $rough = null) {}

    public function frame(): Rect
    {
        return Rect::of(0, 0, 240, 160);
    }

    /** @return array{float, float} where a place of frame 0 is, pixels */
    public function place(int $frame, float $x, float $y): array
    {
        $a = ($this->angle)($frame);
        $u = $x - 120;
        $z = sqrt(max(0.0, self::RADIUS ** 2 - $u * $u - ($y - 80) ** 2));

        return [120 + $u * cos($a) + $z * sin($a), $y];
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        $a = ($this->angle)($frame);
        $v = [];
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x) {
                [$u, $w] = [$x + 0.5 - 120, $y + 0.5 - 80];
                $square = self::RADIUS ** 2 - $u * $u - $w * $w;
                if ($square <= 0.0) {
                    $v[] = 0.3 + 0.05 * sin($x * 0.31) * sin($y * 0.27);
                    continue;
                }
                $z = sqrt($square);
                // The place of the ball that has come here, unrolled.
                $p = atan2($u * cos($a) - $z * sin($a), $u * sin($a) + $z * cos($a)) * self::RADIUS;
                $rough = $this->rough === null ? 1.0 : ($this->rough)($p);
                $v[] = 0.5 + $rough * (0.1 * sin($p * 0.37) * cos($w * 0.33) + 0.08 * sin($p * 0.19 + $w * 0.23) + 0.07 * cos(0.011 * $p * $w));
            }
        }

        return new Grey($rect, $v);
    }

    public function colour(int $frame, Rect $rect): Planes
    {
        $v = $this->luma($frame, $rect)->v;

        return new Planes($rect, $v, $v, $v);
    }
}
