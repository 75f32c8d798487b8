<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\NoAssets;
use Cossel\Core\Touch\Trim;

/**
 * Makes areas look as others do, each by a trim before its own touches. What the trim has to bring is told by the result: by as much
 * as that misses what is wanted, the pixels the area is given are moved, until it is met.
 */
final class Matching
{
    private const ROUNDS = 8;
    /** Share of the way under which no smaller step is tried. */
    private const LEAST = 0.1;
    /** CIEDE2000 that is not seen. */
    private const MET = 0.25;
    /** By how much a trim must bring an area nearer to be worth it. */
    private const WORTH = 0.5;

    /**
     * @param array<int, Frame>        $frames by number: some of the shot
     * @param \Closure(string): string $newId  from its first letter
     */
    public function __construct(
        private readonly Motions $motions,
        private readonly array $frames,
        private readonly \Closure $newId,
        private readonly Assets $assets = new NoAssets(),
    ) {}

    /** @param array<string, Tones> $wanted by area, which are met in the order of the recipe */
    public function matched(Recipe $recipe, array $wanted): Matched
    {
        $misses = [];
        foreach ($recipe->areas as $area) {
            if (isset($wanted[$area->id])) {
                [$recipe, $misses[$area->id]] = $this->area($recipe, $area->id, $wanted[$area->id]);
            }
        }

        return new Matched($recipe, array_filter($misses));
    }

    /** @return array{Recipe, array{float, float}|null} and how far it was off before and is after; null where it is not seen */
    private function area(Recipe $recipe, string $id, Tones $wanted): array
    {
        $result = $this->tones($recipe)->of($recipe->area($id));
        if ($result === null) {
            return [$recipe, null];
        }
        $given = $this->tones($recipe)->given($recipe->area($id));
        $before = $apart = $result->apart($wanted);
        $trim = self::neutral(($this->newId)('t'));
        $best = $recipe;
        $share = 1.0;
        for ($round = 0; $round < self::ROUNDS && $apart > self::MET && $share > self::LEAST; ++$round) {
            $now = $given->tones($trim);
            $next = $now === null ? null : TrimFit::least($given, $now->moved($result, $result->towards($wanted, $share)), $trim);
            if ($next === null) {
                break;
            }
            $area = $recipe->area($id);
            $trimmed = $recipe->withArea($area->withTouches([self::rounded($next), ...$recipe->touches($area)]));
            $seen = $this->tones($trimmed)->of($trimmed->area($id));
            if ($seen === null || $seen->apart($wanted) >= $apart) {
                // Too far: what the touches make of it is no straight line.
                $share *= 0.4;
                continue;
            }
            [$best, $trim, $result, $apart, $share] = [$trimmed, $next, $seen, $seen->apart($wanted), 1.0];
        }

        return $before - $apart < self::WORTH ? [$recipe, [$before, $before]] : [$best, [$before, $apart]];
    }

    private function tones(Recipe $recipe): AreaTones
    {
        return new AreaTones($recipe, $this->motions, $this->frames, $this->assets);
    }

    /** A trim that changes nothing. */
    public static function neutral(string $id): Touch
    {
        $settings = [];
        foreach ((new Trim())->parameters() as $parameter) {
            $settings[$parameter->name] = new Keyed((float) $parameter->neutral);
        }

        return new Touch($id, new Trim(), $settings);
    }

    /** As far as somebody would set it by hand. */
    private static function rounded(Touch $trim): Touch
    {
        foreach (['stops' => 3, 'temperature' => 1, 'tint' => 1, 'saturation' => 3] as $setting => $digits) {
            $trim = $trim->changed($setting, static fn(float $v): float => round($v, $digits));
        }

        return $trim;
    }
}
