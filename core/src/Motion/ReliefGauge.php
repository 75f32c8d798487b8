<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;

/**
 * What motions over a relief say of its scale and tilt. Depths are known from them but for a scale and a plane, z = plane +
 * scale z'; but a camera that turns and comes nearer and nothing else sees both axes alike long and at right angles:
 * with a row of the motion (a, d), the rows r and s of each frame fulfil r Q r = s Q s and r Q s = 0 for one
 * Q = [1 0 p; 0 1 q; p q p² + q² + scale²] with the tilt (p, q). Linear in the three entries that are not known.
 * C. Tomasi and T. Kanade, IJCV 9(2), 1992, section 3.4; C. Poelman and T. Kanade, IEEE PAMI 19(3), 1997.
 */
final readonly class ReliefGauge
{
    /** Frames that say the same thing again. */
    private const ALIKE = 12.0;
    private const LEAST_ERROR = 0.02;
    /** How firmly what nothing tells is held to no tilt and the scale it has. */
    private const FIRM = 1e-4;
    private const ROUNDS = 5;

    /**
     * @param list<list<float>> $weight three by three
     * @param list<float>       $entries of Q: p, q and p² + q² + scale²
     */
    private function __construct(private array $weight, private array $entries) {}

    /** @param list<ReliefMotion> $motions those that were found, the start left out */
    public static function of(array $motions): self
    {
        $rows = [];
        foreach ($motions as $motion) {
            $m = $motion->matrix->m;
            [$u, $v] = $motion->depth;
            $longer = $m[3] ** 2 + $m[4] ** 2 - $m[0] ** 2 - $m[1] ** 2;
            $rows[] = [2 * ($u * $m[0] - $v * $m[3]), 2 * ($u * $m[1] - $v * $m[4]), $u * $u - $v * $v, $longer];
            $rows[] = [2 * ($u * $m[3] + $v * $m[0]), 2 * ($u * $m[4] + $v * $m[1]), 2 * $u * $v, -2 * ($m[0] * $m[3] + $m[1] * $m[4])];
        }
        $weights = array_fill(0, count($rows), 1.0);
        $entries = [0.0, 0.0, 1.0];
        $a = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
        $variance = self::LEAST_ERROR ** 2;
        for ($round = 0; $round < self::ROUNDS && $rows !== []; ++$round) {
            [$a, $b] = self::normal($rows, $weights);
            $firm = $a;
            foreach ([0.0, 0.0, 1.0] as $k => $v) {
                $firm[$k][$k] += self::FIRM;
                $b[$k] += self::FIRM * $v;
            }
            $entries = Linear::solve($firm, $b) ?? $entries;
            [$p, $q, $s] = $entries;
            $errors = array_map(static fn(array $r): float => abs($r[3] - $r[0] * $p - $r[1] * $q - $r[2] * $s), $rows);
            $sorted = $errors;
            sort($sorted);
            $usual = max(0.002, $sorted[intdiv(count($sorted), 2)]);
            $variance = (1.5 * $usual) ** 2 + self::LEAST_ERROR ** 2;
            $weights = array_map(static fn(float $e): float => 1.0 / (1.0 + ($e / (2.0 * $usual)) ** 2), $errors);
        }

        foreach ($a as $i => $row) {
            $a[$i] = array_map(static fn(float $v): float => $v / $variance / self::ALIKE, $row);
        }

        return new self($a, $entries);
    }

    /**
     * Adds to the normal equations of a step what is known of scale and tilt.
     *
     * @param array{float, float, float, float} $plane scale, offset, tilt
     * @param int                               $first the place of these four among what is looked for
     * @param list<list<float>>                 $a
     * @param list<float>                       $b
     */
    public function holdTo(array $plane, int $first, array &$a, array &$b): void
    {
        [$scale, , $p, $q] = $plane;
        $at = [$first, $first + 2, $first + 3];
        $a[$at[1]][$at[1]] += 1e-6;
        $a[$at[2]][$at[2]] += 1e-6;
        $missed = [$this->entries[0] - $p, $this->entries[1] - $q, $this->entries[2] - $scale ** 2 - $p ** 2 - $q ** 2];
        $rises = [[0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [2 * $scale, 2 * $p, 2 * $q]];
        foreach ($at as $i => $row) {
            for ($k = 0; $k < 3; ++$k) {
                for ($l = 0; $l < 3; ++$l) {
                    $w = $rises[$k][$i] * $this->weight[$k][$l];
                    $b[$row] += $w * $missed[$l];
                    foreach ($at as $j => $column) {
                        $a[$row][$column] += $w * $rises[$l][$j];
                    }
                }
            }
        }
    }

    /**
     * @param list<list<float>> $rows
     * @param list<float>       $weights
     *
     * @return array{list<list<float>>, list<float>}
     */
    private static function normal(array $rows, array $weights): array
    {
        $a = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
        $b = [0.0, 0.0, 0.0];
        foreach ($rows as $n => $row) {
            for ($i = 0; $i < 3; ++$i) {
                for ($j = 0; $j < 3; ++$j) {
                    $a[$i][$j] += $weights[$n] * $row[$i] * $row[$j];
                }
                $b[$i] += $weights[$n] * $row[$i] * $row[3];
            }
        }

        return [$a, $b];
    }
}
