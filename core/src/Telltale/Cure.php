<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;

/**
 * A change that would quieten a tell-tale: another recipe, or a frame to follow the area again from. Cures aim a little
 * below the limit; whether they reach it a {@see Trial} says.
 */
final readonly class Cure
{
    /** How far below the limit is aimed at. */
    public const AIM = 0.85;

    /** @param float|null $measure that it comes to, where it was tried */
    private function __construct(public string $words, public ?Recipe $recipe, public ?int $followFrom, public ?float $measure = null) {}

    /** After it was tried. */
    public function tried(string $words, float $measure): self
    {
        return new self($words, $this->recipe, $this->followFrom, $measure);
    }

    public static function byRecipe(string $words, Recipe $recipe): self
    {
        return new self($words, $recipe, null);
    }

    public static function byFollowing(int $from): self
    {
        return new self("Follow it again from frame {$from}", null, $from);
    }

    /** The whole area less strong; null on the whole frame. */
    public static function weaker(Finding $finding, Recipe $recipe): ?self
    {
        if ($finding->area === null) {
            return null;
        }
        $share = round(max(0.1, self::AIM / $finding->excess()), 2);

        return self::byRecipe(
            'Lower its strength to ' . self::percent($share),
            $recipe->withArea($finding->area->withStrength($finding->area->strength->times($share))),
        );
    }

    /** Touches of these kinds less strong; null where the area has none. */
    public static function lessOf(string $what, Finding $finding, Recipe $recipe, string ...$kinds): ?self
    {
        $share = round(max(0.2, self::AIM / $finding->excess()), 2);

        return self::touches(
            "Lower {$what} to " . self::percent($share),
            $finding,
            $recipe,
            $kinds,
            static fn(Touch $touch): Touch => $touch->withAmount($touch->amount->times($share)),
        );
    }

    /**
     * The area's touches of these kinds changed; null where it has none.
     *
     * @param array<string>          $kinds
     * @param callable(Touch): Touch $change
     */
    public static function touches(string $words, Finding $finding, Recipe $recipe, array $kinds, callable $change): ?self
    {
        // A linked area has its touches from the other one.
        $holder = $finding->area?->pair?->linked ? $recipe->area($finding->area->pair->with) : $finding->area;
        $concerned = static fn(Touch $touch): bool => $touch->on && in_array($touch->kind->name(), $kinds, true);
        if ($holder === null || array_filter($holder->touches, $concerned) === []) {
            return null;
        }
        $touches = array_map(static fn(Touch $touch): Touch => $concerned($touch) ? $change($touch) : $touch, $holder->touches);

        return self::byRecipe($words, $recipe->withArea($holder->withTouches($touches)));
    }

    public static function percent(float $share): string
    {
        return round(100 * $share, 1) . ' %';
    }
}
