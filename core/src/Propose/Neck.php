<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;

/**
 * The neck under a mesh: from the line of the jaw down, between the angles of the jaw, as wide as skin is seen. Places in picture heights;
 * inside by how far across, from one side to the other, and how far down, of the neck's length from the line between the sides.
 */
final readonly class Neck
{
    /** Points of a mesh along the jaw from one angle to the other. */
    private const JAW = [58, 136, 149, 152, 378, 365, 288];
    /** How long and wide a neck is, in sizes of the face and widths of the jaw; its sides begin so far under the angles, of its length. */
    private const LONG = 0.42;
    private const WIDE = 0.86;
    private const UNDER = 0.25;
    /**
     * Where it is looked at across, and how far under the jaw there, and the share of these places that must be skin: most are in the
     * shade.
     */
    private const ACROSS = [0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0];
    private const DOWN = [0.12, 0.22, 0.32, 0.42];
    private const SOME = 0.25;
    /** How far from the middle the nearest skin may be. */
    private const ASIDE = 0.25;

    /**
     * @param list<array{float, float}>       $points of its outline, in order
     * @param array{float, float}             $middle
     * @param float                           $bare   how wide skin is seen, of the width there may be
     */
    private function __construct(public array $points, public array $middle, public float $bare) {}

    /**
     * @param float                                                   $tilt of the head, degrees clockwise
     * @param \Closure(non-empty-list<array{float, float}>): float $skin share of places that look like its skin
     */
    public static function under(Mesh $mesh, float $tilt, \Closure $skin): self
    {
        $jaw = array_map($mesh->at(...), self::JAW);
        $down = deg2rad($tilt + 90);
        $long = self::LONG * $mesh->size();
        [$dx, $dy] = [$long * cos($down), $long * sin($down)];
        [[$ax, $ay], [$bx, $by]] = [$jaw[0], $jaw[count($jaw) - 1]];
        [$wx, $wy] = [self::WIDE * ($bx - $ax), self::WIDE * ($by - $ay)];
        [$ox, $oy] = [($ax + $bx - $wx) / 2 + self::UNDER * $dx, ($ay + $by - $wy) / 2 + self::UNDER * $dy];
        $at = static fn(float $across, float $down): array => [$ox + $across * $wx + $down * $dx, $oy + $across * $wy + $down * $dy];
        $edge = array_map(static function (array $p) use ($ox, $oy, $wx, $wy, $dx, $dy): array {
            [$u, $v, $det] = [$p[0] - $ox, $p[1] - $oy, $wx * $dy - $wy * $dx];

            return abs($det) < 1e-12 ? [0.5, 0.0] : [($u * $dy - $v * $dx) / $det, ($wx * $v - $wy * $u) / $det];
        }, $jaw);
        $isSkin = static function (float $across) use ($at, $edge, $skin): bool {
            $from = self::jaw($edge, $across);

            return $skin(array_map(static fn(float $more): array => $at($across, $from + $more), self::DOWN)) >= self::SOME;
        };
        [$from, $to, $bare] = self::around($isSkin);
        $points = [$at($from, self::jaw($edge, $from))];
        foreach ($edge as [$across, $far]) {
            if ($across > $from + 0.05 && $across < $to - 0.05) {
                $points[] = $at($across, $far);
            }
        }
        array_push($points, $at($to, self::jaw($edge, $to)), $at($to, 1.0), $at($from, 1.0));

        return new self($points, $at(($from + $to) / 2, (self::jaw($edge, ($from + $to) / 2) + 1.0) / 2), $bare);
    }

    /**
     * How far down the jaw is at a place across.
     *
     * @param list<array{float, float}> $edge across and down, along the jaw
     */
    private static function jaw(array $edge, float $across): float
    {
        foreach ($edge as $i => [$v, $down]) {
            if ($i > 0 && $across <= $v) {
                [$u, $up] = $edge[$i - 1];

                return $up + max(0.0, min(1.0, ($across - $u) / max(1e-6, $v - $u))) * ($down - $up);
            }
        }

        return $edge === [] ? 0.0 : $edge[count($edge) - 1][1];
    }

    /**
     * The run of places across that pass, round the one nearest to the middle that does.
     *
     * @param \Closure(float): bool $passes
     *
     * @return array{float, float, float} from, to, and how wide that is; a narrow run and 0 where none does
     */
    private static function around(\Closure $passes): array
    {
        $good = array_values(array_filter(self::ACROSS, $passes));
        usort($good, static fn(float $a, float $b): int => abs($a - 0.5) <=> abs($b - 0.5));
        if ($good === [] || abs($good[0] - 0.5) > self::ASIDE) {
            return [0.4, 0.6, 0.0];
        }
        [$from, $to] = [$good[0], $good[0]];
        $step = self::ACROSS[1] - self::ACROSS[0] + 1e-6;
        foreach ($good as $across) {
            $from = $from - $across > 0 && $from - $across < $step ? $across : $from;
            $to = $across - $to > 0 && $across - $to < $step ? $across : $to;
        }

        return [$from, $to, $to - $from];
    }
}
