<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Model;

/** The motion that points which were found in a frame tell: over the surface they lie on, and by a model. */
final readonly class PointFit
{
    private const LEAST = 4;
    /** Under this a surface's turning is not to be told from single errors. */
    private const FEW = 12;
    /** Weight from which a point agrees. */
    private const AGREES = 0.2;
    /** How much larger or smaller a thing may become, as a logarithm. */
    private const MOST_SCALE = 1.6;
    /** By how much more of its departure from the surface a similarity lets points in. */
    private const DEPARTURE = 4.0;

    /**
     * @param Matrix $flat       by the model; of a relief what is left without its depths
     * @param float  $share      of the points that can be seen, that agree
     * @param float  $confidence 0 to 1
     */
    private function __construct(public ReliefMotion $motion, public Matrix $flat, public float $share, public float $confidence) {}

    /**
     * @param list<FollowedPoint> $points
     * @param ReliefMotion        $expected  about where they were looked for
     * @param float               $tolerance distance at which a point is an outlier
     *
     * @return self|null where too few agree
     */
    public static function of(array $points, ReliefMotion $expected, Model $model, float $tolerance): ?self
    {
        $found = array_values(array_filter($points, static fn(FollowedPoint $p): bool => $p->found));
        $from = array_map(static fn(FollowedPoint $p): array => [$p->fromX, $p->fromY], $found);
        $depths = array_map(static fn(FollowedPoint $p): float => $p->depth, $found);
        $to = array_map(static fn(FollowedPoint $p): array => [$p->x, $p->y], $found);
        // What is expected and what is found differ by little more than a similarity: so those that agree are told from those that do not.
        $over = array_map(static fn(FollowedPoint $p): array => $p->under($expected), $found);
        $agreed = Fit::robust($model === Model::Position ? $model : Model::Similarity, $over, $to, $tolerance);
        if ($agreed === null) {
            return null;
        }
        // And where they are few it is all that they can tell.
        $motion = (count($found) < self::FEW ? null : ReliefMotion::robust($from, $depths, $to, $tolerance, null, $agreed[1])[0] ?? null)
            ?? $expected->then($agreed[0]);
        $error = $likeness = $sum = 0.0;
        $agree = 0;
        foreach ($found as $point) {
            [$u, $v] = $point->under($motion);
            $off = ($u - $point->x) ** 2 + ($v - $point->y) ** 2;
            $w = max(0.0, 1.0 - $off / $tolerance ** 2) ** 2;
            $agree += $w > self::AGREES ? 1 : 0;
            $error += $w * $off;
            $likeness += $w * $point->alike;
            $sum += $w;
        }
        $flat = self::flat($model, $motion, $found, $from, $to, $tolerance);
        if ($flat === null || $agree < self::LEAST || abs(log(max(1e-6, $flat->scale()))) > self::MOST_SCALE) {
            return null;
        }
        $share = $agree / max(1, count(array_filter($points, static fn(FollowedPoint $p): bool => $p->found || $p->faces())));
        $confidence = min(1.0, $share / 0.75)
            * max(0.0, min(1.0, ($likeness / $sum - 0.5) / 0.4))
            / (1.0 + $error / $sum / $tolerance ** 2);

        return new self($motion, $flat, $share, $confidence);
    }

    /**
     * Points that depart from a similarity because they stand out do not count as outliers for it.
     *
     * @param list<FollowedPoint>       $found
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     */
    private static function flat(Model $model, ReliefMotion $motion, array $found, array $from, array $to, float $tolerance): ?Matrix
    {
        if ($model === Model::Relief) {
            return $motion->matrix;
        }
        if ($model === Model::Position || $model === Model::Similarity) {
            $over = array_map(static fn(FollowedPoint $p): array => $p->under($motion), $found);
            $near = Fit::least($model, $from, $over);
            $departure = 0.0;
            foreach ($near === null ? [] : $over as $i => [$x, $y]) {
                [$u, $v] = $near->apply(...$from[$i]);
                $departure += (($u - $x) ** 2 + ($v - $y) ** 2) / count($over);
            }
            $tolerance += self::DEPARTURE * sqrt($departure);
        }

        return Fit::robust($model, $from, $to, $tolerance)[0] ?? null;
    }
}
