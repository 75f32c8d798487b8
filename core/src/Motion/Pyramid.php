<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** A piece of a frame at full, half, quarter … size. Positions are those of the whole frame, divided by 2^level. */
final readonly class Pyramid
{
    /** @param list<Grey> $levels each with its rectangle in its own level's pixels */
    private function __construct(public array $levels) {}

    public static function of(Grey $grey, int $count): self
    {
        $levels = [$grey];
        for ($n = 1; $n < $count; ++$n) {
            $half = $levels[$n - 1]->halved();
            $rect = Rect::of($grey->rect->x >> $n, $grey->rect->y >> $n, $half->rect->width, $half->rect->height);
            $levels[] = new Grey($rect, $half->v);
        }

        return new self($levels);
    }

    /** The rectangle grown so that it divides evenly on every level. */
    public static function aligned(Rect $rect, int $count): Rect
    {
        $step = 1 << ($count - 1);
        $mask = ~($step - 1);

        return Rect::edges($rect->x & $mask, $rect->y & $mask, ($rect->right() + $step - 1) & $mask, ($rect->bottom() + $step - 1) & $mask);
    }
}
