<?php

declare(strict_types=1);

namespace App\Pictures;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Render\FrameRenderer;

/** A picture that would take far too long, said before it is begun. */
final class TooCostly extends \DomainException
{
    /** @param string $limit name of the limit: picture, delivery */
    public static function check(FrameRenderer $renderer, Frame $frame, int $number, Rect $rect, string $limit): void
    {
        $seconds = $renderer->seconds($frame, $number, $rect);
        $most = (float) config("limits.{$limit}.seconds");
        if ($seconds > $most) {
            throw new self(sprintf('This would take about %d seconds a frame at this size; the limit is %d. Switch something off or make it simpler%s.', (int) ceil($seconds), (int) $most, $limit === 'picture' ? ', or look at it smaller' : ''));
        }
    }
}
