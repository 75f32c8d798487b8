<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Robust;

/** Where an area's own pixels lie in Oklab: what ranges and bands are set by. */
final readonly class AreaColours
{
    public const HUES = 72;
    public const LEVELS = 60;
    public const MOST_CHROMA = 0.3;

    /**
     * @param array{float, float, float}         $mean   robust mean of L, a, b
     * @param array{float, float, float}         $middle robust mean of R', G', B'
     * @param array<string, list<float>>         $shares hue (0..360, by chroma), chroma (0..0.3), light (0..1): each 0..1 of its peak
     * @param array<string, list<int>>           $levels counts of luma, red, green, blue from 0 to 1
     */
    private function __construct(public array $mean, public array $middle, public array $shares, public array $levels) {}

    /** @param Grey $matte over the planes' rectangle */
    public static function of(Planes $planes, Grey $matte, Transfer $transfer): self
    {
        $lab = LabPlanes::of($planes, $planes->rect, $transfer);
        $w = $matte->v;
        $hue = array_fill(0, self::HUES, 0.0);
        $chroma = $light = array_fill(0, self::LEVELS, 0.0);
        $levels = array_fill_keys(['luma', 'red', 'green', 'blue'], array_fill(0, self::LEVELS, 0));
        $level = static fn(float $v): int => max(0, min(self::LEVELS - 1, (int) ($v * self::LEVELS)));
        foreach ($w as $i => $k) {
            if ($k < 0.5) {
                continue;
            }
            [$a, $b] = [$lab->a[$i], $lab->b[$i]];
            $c = hypot($a, $b);
            $hue[(int) (fmod(rad2deg(atan2($b, $a)) + 360, 360) / 360 * self::HUES) % self::HUES] += $c;
            $chroma[$level($c / self::MOST_CHROMA)] += 1;
            $light[$level($lab->l[$i])] += 1;
            ++$levels['luma'][$level(Luma::at($planes->r[$i], $planes->g[$i], $planes->b[$i]))];
            ++$levels['red'][$level($planes->r[$i])];
            ++$levels['green'][$level($planes->g[$i])];
            ++$levels['blue'][$level($planes->b[$i])];
        }
        $share = static function (array $v): array {
            $peak = max(1e-9, max($v));

            return array_map(static fn(float $x): float => round($x / $peak, 4), $v);
        };
        $mean = static fn(array $v): float => Robust::of($v, $w)[0];

        return new self(
            [$mean($lab->l), $mean($lab->a), $mean($lab->b)],
            [$mean($planes->r), $mean($planes->g), $mean($planes->b)],
            ['hue' => $share($hue), 'chroma' => $share($chroma), 'light' => $share($light)],
            $levels,
        );
    }
}
