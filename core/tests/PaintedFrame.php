<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;

/** Frames painted by a formula. */
final class PaintedFrame
{
    /** @param callable(float, float): array{float, float, float} $paint R'G'B' at a place in picture heights */
    public static function of(callable $paint, int $width = 160, int $height = 90): Frame
    {
        $format = new FrameFormat($width, $height, Layout::Rgb, transfer: Transfer::Bt1886);
        $planes = [[], [], []];
        for ($y = 0; $y < $height; ++$y) {
            for ($x = 0; $x < $width; ++$x) {
                [$r, $g, $b] = $paint(($x + 0.5) / $height, ($y + 0.5) / $height);
                foreach ([$g, $b, $r] as $k => $v) {
                    $planes[$k][] = max(0, min(65535, (int) round($format->black() + $v * $format->lumaSpan())));
                }
            }
        }

        return new Frame($format, pack('v*', ...$planes[0], ...$planes[1], ...$planes[2]));
    }
}
