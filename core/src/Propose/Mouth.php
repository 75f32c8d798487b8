<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Motion\PathEdge;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Recipe\PathPoint;

/**
 * A mouth as it is seen on a frame, looked for and checked: lips stand out from the skin round them, and nothing there is an eye;
 * teeth show where enough of the opening is light and less red than the lips. Pixels.
 */
final readonly class Mouth
{
    /** By how many spreads lips must differ from the skin. */
    private const STANDS_OUT = 2.2;
    /** An iris where the mouth should be: shares of rays that agree, and how much lighter it is outside. */
    private const AN_EYE = [1.2, 0.15];
    /** A mouth is open when its opening is higher than the first, hardly parted under the second, in shares of the face's width. */
    private const OPEN = 0.06;
    private const AJAR = 0.03;
    /** Teeth are lighter than this share of the lips' luma and less red than this share of theirs. */
    private const LIGHT = 0.8;
    private const RED = 0.6;
    /** Teeth show when they cover this share of the squared width of the face; between lips hardly parted, when they fill this much. */
    private const SHOWN = 0.004;
    private const FILLED = 0.6;
    /** Furthest the opening's edge is looked for in one round, in shares of the face's width. */
    private const REACH = 0.035;
    private const PER_PIECE = 4;

    /**
     * @param list<PathPoint> $lips    their outer border
     * @param list<PathPoint> $opening between them
     * @param float           $apart   by how many spreads the lips differ from the skin round them
     * @param string|null     $doubt   why it may be no mouth, or not be right
     * @param string|null     $closed  why no teeth are proposed
     */
    private function __construct(
        public array $lips,
        public array $opening,
        public float $apart,
        public ?string $doubt,
        public ?string $closed,
    ) {}

    /**
     * @param list<PathPoint> $outer  through the landmarks of the lips' border
     * @param list<PathPoint> $inner  and of the opening
     * @param float           $high   how high the opening is by the landmarks
     * @param float           $width  of the face
     * @param bool            $bound  whether the landmarks are near enough to be held to
     */
    public static function seen(
        FrameSource $source,
        int $frame,
        array $outer,
        array $inner,
        float $high,
        float $width,
        bool $bound = false,
    ): self {
        $bounds = $source->frame();
        $isOut = static fn(PathPoint $p): bool => $p->x < 0 || $p->y < 0 || $p->x > $bounds->width || $p->y > $bounds->height;
        $out = array_filter($outer, $isOut);
        if ($out !== []) {
            $how = count($out) > 0.7 * count($outer) ? 'the mouth' : 'part of the mouth';

            return new self($outer, $inner, 0.0, "{$how} is outside the frame", 'the mouth is outside the frame');
        }
        [$lips, $apart] = Lips::found($source, $frame, $outer);
        $lips = $bound ? HeldOutline::of($source, $frame, $lips, $outer) : $lips;
        $opening = PathEdge::settled($source, $frame, $inner, max(3, (int) (self::REACH * $width)));
        $opening = $bound ? HeldOutline::of($source, $frame, $opening, $inner) : $opening;
        $closed = self::closed($source, $frame, $lips, $opening, $high, $width);
        $doubt = match (true) {
            $apart < self::STANDS_OUT => 'the lips do not stand out from the skin round them',
            self::isEye($source, $frame, $lips, $width) => 'an eye is where the mouth should be',
            default => null,
        };

        // A closed mouth has no edge there to draw the path to.
        return new self($lips, $closed === null || $high > self::OPEN * $width ? $opening : $inner, $apart, $doubt, $closed);
    }

    public function sure(): bool
    {
        return $this->doubt === null;
    }

    /** @param list<PathPoint> $lips */
    private static function isEye(FrameSource $source, int $frame, array $lips, float $width): bool
    {
        $n = count($lips);
        $x = array_sum(array_map(static fn(PathPoint $p): float => $p->x, $lips)) / $n;
        $y = array_sum(array_map(static fn(PathPoint $p): float => $p->y, $lips)) / $n;
        $iris = IrisCircle::near($source, $frame, $x, $y, 0.12 * $width, 0.1 * $width);

        return $iris !== null && $iris->likeness > self::AN_EYE[0] && $iris->step > self::AN_EYE[1];
    }

    /**
     * Why no teeth are to be proposed; null where they show.
     *
     * @param list<PathPoint> $lips
     * @param list<PathPoint> $opening
     */
    private static function closed(FrameSource $source, int $frame, array $lips, array $opening, float $high, float $width): ?string
    {
        $border = Contour::along($lips, self::PER_PIECE);
        $gap = Contour::along($opening, self::PER_PIECE);
        if ($border === []) {
            return 'the mouth is closed';
        }
        [$xs, $ys] = [array_column($border, 0), array_column($border, 1)];
        $rect = Rect::around(min($xs), min($ys), max($xs), max($ys))->intersect($source->frame());
        $planes = $source->colour($frame, $rect);
        $in = $round = [];
        for ($y = $rect->y, $i = 0; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x, ++$i) {
                $told = [self::red($planes->r[$i], $planes->g[$i]), Luma::at($planes->r[$i], $planes->g[$i], $planes->b[$i])];
                if (Contour::holds($gap, $x + 0.5, $y + 0.5)) {
                    $in[] = $told;
                } elseif (Contour::holds($border, $x + 0.5, $y + 0.5)) {
                    $round[] = $told;
                }
            }
        }
        if ($in === [] || $round === []) {
            return 'the mouth is closed';
        }
        $red = self::RED * Robust::median(array_column($round, 0));
        $light = self::LIGHT * Robust::median(array_column($round, 1));
        $teeth = count(array_filter($in, static fn(array $p): bool => $p[0] < $red && $p[1] > $light));

        return match (true) {
            $teeth < self::SHOWN * $width * $width && $high > self::OPEN * $width => 'no teeth are seen in the mouth',
            $teeth < self::SHOWN * $width * $width => 'the mouth is closed',
            $high < self::AJAR * $width && $teeth < self::FILLED * count($in) => 'the mouth is closed',
            default => null,
        };
    }

    private static function red(float $r, float $g): float
    {
        return ($r - $g) / max(0.02, $r + $g);
    }
}
