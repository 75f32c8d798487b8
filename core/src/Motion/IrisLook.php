<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;

/**
 * What an iris looks like against the skin round the eye: a linear discriminant of R'G'B', both stated against the
 * skin's present mean, so that light may change. Kernel class.
 */
final class IrisLook
{
    /**
     * @param array{float, float, float} $telling weights of R'G'B' that tell iris from skin
     * @param float                      $limit   between the two, against the skin's mean
     */
    private function __construct(private readonly array $telling, private readonly float $limit) {}

    /**
     * What tells the iris from the skin above and below it.
     *
     * @param array{float, float, float, float} $circle
     */
    public static function learnt(Planes $planes, array $circle): self
    {
        $skin = self::pixels($planes, $circle, false);
        $iris = self::pixels($planes, $circle, true);
        $telling = Discriminant::between($iris, $skin);
        [$a, $b] = array_map(self::mean(...), [$iris, $skin]);

        return new self($telling, 0.5 * ($telling[0] * ($a[0] - $b[0]) + $telling[1] * ($a[1] - $b[1]) + $telling[2] * ($a[2] - $b[2])));
    }

    /**
     * 1 where a pixel does not look like the skin above and below the eye, 0 where it does.
     *
     * @param array{float, float, float, float} $circle where the eye is
     */
    public function likeness(Planes $planes, array $circle): Grey
    {
        $skin = self::mean(self::pixels($planes, $circle, false));
        [$a, $b, $c] = $this->telling;
        $limit = $this->limit + $a * $skin[0] + $b * $skin[1] + $c * $skin[2];
        $map = [];
        for ($i = 0, $n = $planes->rect->count(); $i < $n; ++$i) {
            $map[] = $a * $planes->r[$i] + $b * $planes->g[$i] + $c * $planes->b[$i] > $limit ? 1.0 : 0.0;
        }

        return new Grey($planes->rect, $map);
    }

    /**
     * Share of the iris' disc, without what lids usually cover, that looks like iris.
     *
     * @param array{float, float, float, float} $circle
     */
    public static function covered(Grey $map, array $circle): float
    {
        $sum = 0.0;
        $count = 0;
        $rect = $map->rect;
        for ($v = -0.6; $v <= 0.6; $v += 0.15) {
            for ($u = -0.75; $u <= 0.75; $u += 0.15) {
                if ($u * $u + $v * $v > 0.7) {
                    continue;
                }
                $x = (int) ($circle[0] + $u * $circle[2]) - $rect->x;
                $y = (int) ($circle[1] + $v * $circle[2]) - $rect->y;
                ++$count;
                if ($x >= 0 && $y >= 0 && $x < $rect->width && $y < $rect->height) {
                    $sum += $map->v[$y * $rect->width + $x];
                }
            }
        }

        return $sum / $count;
    }

    /**
     * Every other pixel of the disc, or of the skin above and below it.
     *
     * @param array{float, float, float, float} $circle
     *
     * @return non-empty-list<array{float, float, float}>
     */
    private static function pixels(Planes $planes, array $circle, bool $inside): array
    {
        [$cx, $cy, $radius] = $circle;
        $rect = $planes->rect;
        $reach = ($inside ? 0.85 : 2.1) * $radius;
        $pixels = [];
        for ($y = max($rect->y, (int) ($cy - $reach)); $y < min($rect->bottom(), $cy + $reach); $y += 2) {
            for ($x = max($rect->x, (int) ($cx - $reach)); $x < min($rect->right(), $cx + $reach); $x += 2) {
                $dx = ($x + 0.5 - $cx) / $radius;
                $dy = ($y + 0.5 - $cy) / $radius;
                $in = $inside
                    ? $dx * $dx + $dy * $dy < 0.72 && abs($dy) < 0.62
                    : abs($dy) > 1.35 && abs($dy) < 2.1 && abs($dx) < 1.1;
                if ($in) {
                    $k = ($y - $rect->y) * $rect->width + $x - $rect->x;
                    $pixels[] = [$planes->r[$k], $planes->g[$k], $planes->b[$k]];
                }
            }
        }

        return $pixels === [] ? [[0.5, 0.4, 0.35]] : $pixels;
    }

    /**
     * @param non-empty-list<array{float, float, float}> $pixels
     *
     * @return array{float, float, float}
     */
    private static function mean(array $pixels): array
    {
        $n = count($pixels);

        return [
            array_sum(array_column($pixels, 0)) / $n,
            array_sum(array_column($pixels, 1)) / $n,
            array_sum(array_column($pixels, 2)) / $n,
        ];
    }
}
