<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Side;
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

    /**
     * Makes one area look as another does by a trim of the whole frame, at the beginning of the base.
     *
     * @throws \Cossel\Core\Recipe\UnknownId
     */
    public function base(Recipe $recipe, string $id, Tones $wanted): Matched
    {
        [$trim, $rest] = $this->first($recipe->base);
        $given = $this->tones($recipe)->untreated($recipe->area($id));
        $lay = static fn(Touch $by): Recipe => $recipe->withBase([$by, ...$rest]);
        [$recipe, $miss] = $this->met($recipe, $id, $wanted, $given, $trim, $lay);

        return new Matched($recipe, array_filter([$id => $miss]));
    }

    /** @return array{Recipe, array{float, float}|null} and how far it was off before and is after; null where it is not seen */
    private function area(Recipe $recipe, string $id, Tones $wanted): array
    {
        $area = $recipe->area($id);
        [$trim, $rest] = $this->first($recipe->touches($area));
        $lay = static fn(Touch $by): Recipe => $recipe->withArea($area->withTouches([$by, ...$rest]));

        return $this->met($recipe, $id, $wanted, $this->tones($recipe)->given($area), $trim, $lay);
    }

    /**
     * @param Given                   $given what the trim is given
     * @param Touch                   $trim  that is there, or one that changes nothing
     * @param callable(Touch): Recipe $lay   the recipe with another trim
     *
     * @return array{Recipe, array{float, float}|null}
     */
    private function met(Recipe $recipe, string $id, Tones $wanted, Given $given, Touch $trim, callable $lay): array
    {
        $result = $this->tones($recipe)->of($recipe->area($id));
        if ($result === null) {
            return [$recipe, null];
        }
        $before = $apart = $result->apart($wanted);
        $best = $recipe;
        $share = 1.0;
        for ($round = 0; $round < self::ROUNDS && $apart > self::MET && $share > self::LEAST; ++$round) {
            $now = $given->tones($trim);
            $next = $now === null ? null : TrimFit::least($given, $now->moved($result, $result->towards($wanted, $share)), $trim);
            if ($next === null) {
                break;
            }
            $trimmed = $lay(self::rounded($next));
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

    /**
     * The trim that touches begin with, so that matching again sets that one, and the rest of them.
     *
     * @param list<Touch> $touches
     *
     * @return array{Touch, list<Touch>}
     */
    private function first(array $touches): array
    {
        $first = $touches[0] ?? null;
        $isTrim = $first?->kind instanceof Trim && $first->on && $first->amount == new Keyed(1.0) && $first->side === Side::Inside
            && array_filter($first->settings, static fn(mixed $v): bool => $v instanceof Keyed && $v->keys !== []) === [];

        return $isTrim ? [$first, array_slice($touches, 1)] : [self::neutral(($this->newId)('t')), $touches];
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
