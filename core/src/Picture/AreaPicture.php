<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * A picture of an area with its matte, for measures of the area: every pixel of it, or the means of blocks and some of
 * the rows as they are. So what it takes of memory is bounded however large the area is.
 */
final readonly class AreaPicture
{
    /** Pixels that measures of single pixels are taken from where the rest are means. */
    private const ROWS = 60_000;

    /**
     * @param Planes                    $planes a pixel for each block, from 0, 0
     * @param Grey                      $matte  likewise
     * @param list<array{Planes, Grey}> $pieces of the picture and its matte pixel by pixel, where they are
     */
    private function __construct(public Blocks $blocks, public Planes $planes, public Grey $matte, public array $pieces) {}

    /** From a picture that reaches over all of it. */
    public static function of(Rect $rect, int $side, Planes $planes, Grey $matte): self
    {
        return self::gathered($rect, $side, [[$planes->window($rect), $matte->window($rect)]]);
    }

    /**
     * @param int                             $side  of a block
     * @param iterable<array{Planes, Grey}> $bands from top to bottom, together the rectangle; each but the last as high as
     *                                             some whole blocks
     */
    public static function gathered(Rect $rect, int $side, iterable $bands): self
    {
        $blocks = new Blocks($rect, $side);
        $every = max(1, (int) ceil($rect->count() / self::ROWS));
        $r = $g = $b = $m = $pieces = [];
        foreach ($bands as [$planes, $matte]) {
            for ($y = $planes->rect->y; $side > 1 && $y < $planes->rect->bottom(); ++$y) {
                if (($y - $rect->y) % $every === 0) {
                    $row = Rect::of($rect->x, $y, $rect->width, 1);
                    $pieces[] = [$planes->window($row), $matte->window($row)];
                }
            }
            if ($side === 1) {
                $pieces[] = [$planes, $matte];
            }
            $of = new Blocks($planes->rect, $side);
            $r[] = $of->means($planes->r);
            $g[] = $of->means($planes->g);
            $b[] = $of->means($planes->b);
            $m[] = $of->means($matte->v);
        }
        $small = Rect::of(0, 0, $blocks->width, $blocks->height);

        return new self(
            $blocks,
            new Planes($small, array_merge(...$r), array_merge(...$g), array_merge(...$b)),
            new Grey($small, array_merge(...$m)),
            $pieces,
        );
    }
}
