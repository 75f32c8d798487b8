<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;

/**
 * The skin of a face: its colour, stated as Oklab a and b against L, so that light and shadow on it are alike, and how much of other places
 * is of that colour. Pixels.
 */
final readonly class Skin
{
    /** How far apart in a/L and b/L skin of one face is, from light to shadow. */
    private const ALIKE = 0.055;

    /** @param array{float, float, float} $colour a/L, b/L, L; medians */
    private function __construct(private FrameSource $source, private int $frame, public array $colour) {}

    /** @param list<array{float, float}> $places of which most are skin */
    public static function at(FrameSource $source, int $frame, array $places): ?self
    {
        $found = self::colours($source, $frame, $places);
        if ($found === []) {
            return null;
        }

        return new self($source, $frame, [
            Robust::median(array_column($found, 0)),
            Robust::median(array_column($found, 1)),
            Robust::median(array_column($found, 2)),
        ]);
    }

    /**
     * Share of places that are of the skin's colour; those outside the picture count as none.
     *
     * @param non-empty-list<array{float, float}> $places
     */
    public function share(array $places): float
    {
        $like = 0;
        foreach (self::colours($this->source, $this->frame, $places) as [$a, $b, $l]) {
            $near = hypot($a - $this->colour[0], $b - $this->colour[1]) < self::ALIKE;
            $like += $near && $l > 0.4 * $this->colour[2] && $l < 1.8 * $this->colour[2] ? 1 : 0;
        }

        return $like / count($places);
    }

    /**
     * @param list<array{float, float}> $places
     *
     * @return list<array{float, float, float}>
     */
    private static function colours(FrameSource $source, int $frame, array $places): array
    {
        $bounds = $source->frame();
        $isIn = static fn(array $p): bool => $p[0] >= 0 && $p[1] >= 0 && $p[0] < $bounds->width && $p[1] < $bounds->height;
        $places = array_filter($places, $isIn);
        if ($places === []) {
            return [];
        }
        [$xs, $ys] = [array_column($places, 0), array_column($places, 1)];
        $rect = Rect::around(min($xs), min($ys), max($xs) + 1, max($ys) + 1)->intersect($bounds);
        $planes = $source->colour($frame, $rect);
        $found = [];
        foreach ($places as [$x, $y]) {
            $sum = [0.0, 0.0, 0.0];
            $count = 0;
            for ($j = -1; $j <= 1; ++$j) {
                for ($i = -1; $i <= 1; ++$i) {
                    [$px, $py] = [(int) $x + $i - $rect->x, (int) $y + $j - $rect->y];
                    if ($px >= 0 && $py >= 0 && $px < $rect->width && $py < $rect->height) {
                        $k = $py * $rect->width + $px;
                        $sum = [$sum[0] + $planes->r[$k], $sum[1] + $planes->g[$k], $sum[2] + $planes->b[$k]];
                        ++$count;
                    }
                }
            }
            // A plain gamma is near enough to compare colours of one picture.
            [$l, $a, $b] = Oklab::fromLinear(...array_map(static fn(float $v): float => max(0.0, $v / max(1, $count)) ** 2.2, $sum));
            $found[] = [$a / max(0.02, $l), $b / max(0.02, $l), $l];
        }

        return $found;
    }
}
