<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\PathPoint;

/** What carries a soft outline: the head lids and lips are on, or the lips an opening is between, which it also stays within. */
final readonly class HeadCarrier implements Carrier
{
    /** Share of an outline that must lie within what holds it. */
    private const WITHIN = 0.85;
    private const PER_PIECE = 4;

    /**
     * @param \Closure(int): Pose                  $pose   from one frame, in picture heights
     * @param (\Closure(int): list<PathPoint>)|null $border what holds it, in picture heights
     */
    private function __construct(private \Closure $pose, private ?\Closure $border = null) {}

    public static function of(Area $area, int $start, Motions $motions): ?self
    {
        $lips = $area->is(Part::Teeth) ? $motions->lips($area)?->steps : null;
        if ($lips !== null && isset($lips[$start])) {
            $border = static fn(int $frame): array => ($lips[$frame] ?? $lips[$start])->points ?? [];
            $at = static fn(PathPoint $p): array => [$p->x, $p->y];
            $from = array_map($at, $border($start));

            return new self(
                static function (int $frame) use ($from, $at, $border): Pose {
                    return new Pose(Fit::least(Model::Affine, $from, array_map($at, $border($frame))) ?? Matrix::identity());
                },
                $border,
            );
        }
        $head = $motions->head($area);

        return $head === null ? null : new self(static fn(int $frame): Pose => $motions->surface($head, $frame));
    }

    public function moved(array $points, int $from, int $to, int $height): array
    {
        if ($from === $to) {
            return $points;
        }
        [$was, $is] = [($this->pose)($from), ($this->pose)($to)];

        return array_map(static function (PathPoint $p) use ($was, $is, $height): PathPoint {
            $q = $was->undo($p->x / $height, $p->y / $height);

            return $p->moved($is->affineAt(...$q)->times($was->affineAt(...$q)->inverse())->inPixels($height));
        }, $points);
    }

    public function carries(int $frame): bool
    {
        return true;
    }

    public function sees(int $frame): bool
    {
        return false;
    }

    public function open(int $frame): ?float
    {
        return null;
    }

    public function holds(int $frame, array $points, int $height): bool
    {
        if ($this->border === null) {
            return true;
        }
        $border = Contour::along(($this->border)($frame), self::PER_PIECE);
        $line = array_map(static fn(array $p): array => [$p[0] * $height, $p[1] * $height], $border);
        $places = Contour::along($points, self::PER_PIECE);
        $within = count(array_filter($places, static fn(array $p): bool => Contour::holds($line, $p[0], $p[1])));

        return $within >= self::WITHIN * count($places);
    }
}
