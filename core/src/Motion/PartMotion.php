<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\PathPoint;

/**
 * Where places on and round a part of a face go as its points go: as all of them do together, and near each what that one does besides.
 */
final readonly class PartMotion
{
    /** How far round a point its own way counts, in distances between neighbours. */
    private const NEAR = 1.3;
    /** Step by which handles are carried, as a share of the same. */
    private const STEP = 0.25;

    /**
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $besides
     */
    private function __construct(private Matrix $together, private array $from, private array $besides, private float $near) {}

    /**
     * @param non-empty-list<array{float, float}> $from places of the part's points
     * @param non-empty-list<array{float, float}> $to
     */
    public static function between(array $from, array $to): self
    {
        $together = Fit::least(Model::Affine, $from, $to) ?? Fit::least(Model::Similarity, $from, $to) ?? Matrix::identity();
        $besides = [];
        $apart = 0.0;
        foreach ($from as $i => [$x, $y]) {
            [$u, $v] = $together->apply($x, $y);
            $besides[] = [$to[$i][0] - $u, $to[$i][1] - $v];
            [$p, $q] = $from[($i + 1) % count($from)];
            $apart += hypot($p - $x, $q - $y) / count($from);
        }

        return new self($together, $from, $besides, max(1e-6, self::NEAR * $apart));
    }

    /** @return array{float, float} */
    public function apply(float $x, float $y): array
    {
        $sum = $dx = $dy = 0.0;
        $nearest = INF;
        foreach ($this->from as $i => [$u, $v]) {
            $square = (($u - $x) ** 2 + ($v - $y) ** 2) / $this->near ** 2;
            $weight = exp(-$square / 2);
            $nearest = min($nearest, $square);
            $sum += $weight;
            $dx += $weight * $this->besides[$i][0];
            $dy += $weight * $this->besides[$i][1];
        }
        // Far from all of them nothing is known besides.
        $share = exp(-$nearest / 18) / max(1e-12, $sum);
        [$u, $v] = $this->together->apply($x, $y);

        return [$u + $share * $dx, $v + $share * $dy];
    }

    public function point(PathPoint $p): PathPoint
    {
        [$x, $y] = $this->apply($p->x, $p->y);
        $step = self::STEP * $this->near;
        [$ax, $ay] = $this->apply($p->x + $step, $p->y);
        [$bx, $by] = $this->apply($p->x, $p->y + $step);
        [$a, $b, $c, $d] = [($ax - $x) / $step, ($bx - $x) / $step, ($ay - $y) / $step, ($by - $y) / $step];

        $in = [$a * $p->inX + $b * $p->inY, $c * $p->inX + $d * $p->inY];

        return new PathPoint($x, $y, ...[...$in, $a * $p->outX + $b * $p->outY, $c * $p->outX + $d * $p->outY]);
    }
}
