<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;

/** The obvious cures of a finding. They aim a little below the limit; whether they reach it is for the next look to say. */
final class Cures
{
    /** How far below the limit is aimed at. */
    private const AIM = 0.85;
    /**
     * How wide a feather a hard edge is given for each time it passes the limit: over it, the smoothstep's steepest (1.5 times
     * the mean) then rises by no more than the limit within the greater step that a halo is measured by (2 / 90).
     */
    private const FEATHER = 3 / 90;
    private const MOST_FEATHER = 0.4;

    /** @var array<string, mixed> */
    private readonly array $document;

    private readonly int $at;

    private function __construct(private readonly Finding $finding, Recipe $recipe)
    {
        $this->document = json_decode((new RecipeWriter())->json($recipe), true, flags: JSON_THROW_ON_ERROR);
        $this->at = (int) array_search($finding->area?->id, array_column($this->document['areas'], 'id'), true);
    }

    /** @return list<Cure> */
    public static function of(Finding $finding, Recipe $recipe): array
    {
        if (!$finding->rings()) {
            return [];
        }
        $cures = new self($finding, $recipe);

        return array_values(array_filter(match (true) {
            $finding->telltale instanceof Halo => [$cures->wider(), $cures->weaker()],
            $finding->telltale instanceof Bleed => [$cures->narrower()],
            $finding->telltale instanceof Drift => [$cures->uncorrected() ?? $cures->followed()],
            $finding->telltale instanceof Flicker => [$cures->unkeyed() ?? $cures->softerPick() ?? $cures->weaker()],
            $finding->telltale instanceof LeftOn => [$cures->guarded(), $cures->faded()],
            $finding->telltale instanceof OverWhite => [$cures->lessWhite() ?? $cures->weaker()],
            $finding->telltale instanceof Paint => [$cures->lessOf('the iris’s new colour', ['iris']) ?? $cures->weaker()],
            $finding->telltale instanceof Mismatch => [$cures->linked() ?? $cures->weaker()],
            $finding->telltale instanceof Plastic => [$cures->lessOf('the smoothing', ['even', 'blur']) ?? $cures->weaker()],
            $finding->telltale instanceof NoiseLifted => [$cures->calmed(), $cures->weaker()],
            $finding->telltale instanceof Levels => [$cures->legal()],
            default => [],
        }));
    }

    private function wider(): ?Cure
    {
        $times = $this->finding->measure() / $this->finding->limit / self::AIM;
        $widest = 0.0;
        $cure = $this->area(static function (array $area) use ($times, &$widest): array {
            foreach ($area['outline']['shapes'] as &$shape) {
                if (isset($shape['featherOut']) && $shape['join'] === 'add') {
                    // Keyed feathers are left to the hand that keyed them.
                    $out = is_array($shape['featherOut']) ? 0.0 : min(self::MOST_FEATHER, round(max($shape['featherIn'] + $shape['featherOut'], self::FEATHER) * $times - $shape['featherIn'], 3));
                    $widest = max($widest, $out);
                    $shape['featherOut'] = is_array($shape['featherOut']) ? $shape['featherOut'] : max($out, $shape['featherOut']);
                }
            }

            return $area;
        });

        return $widest > 0.0 ? Cure::byRecipe('Widen the outer feather to ' . self::percent($widest) . ' of the height', $cure) : null;
    }

    private function narrower(): ?Cure
    {
        $kept = null;
        $cure = $this->area(function (array $area) use (&$kept): array {
            foreach ($area['outline']['shapes'] as &$shape) {
                if (isset($shape['featherOut']) && $shape['join'] === 'add') {
                    $kept = round($shape['featherOut'] * self::AIM * $this->finding->limit / $this->finding->measure(), 4);
                    $shape['grow'] = round($shape['grow'] - ($shape['featherOut'] - $kept) / 2 - 0.004, 4);
                    $shape['featherOut'] = $kept;
                }
            }

            return $area;
        });

        return $kept === null ? null : Cure::byRecipe('Draw the edge in and narrow the outer feather to ' . self::percent($kept), $cure);
    }

    private function uncorrected(): ?Cure
    {
        $keys = array_column($this->document['areas'][$this->at]['motion']['keys'] ?? [], 'frame');
        $bad = array_values(array_filter($keys, fn(int $frame): bool => ($this->finding->measures[$frame] ?? 0.0) > $this->finding->limit));
        if ($bad === []) {
            return null;
        }
        $cure = $this->area(static function (array $area) use ($bad): array {
            $area['motion']['keys'] = array_values(array_filter($area['motion']['keys'], static fn(array $key): bool => !in_array($key['frame'], $bad, true)));

            return $area;
        });

        return Cure::byRecipe('Take out the correction on frame ' . implode(', ', $bad), $cure);
    }

    private function followed(): ?Cure
    {
        if ($this->finding->area === null || $this->finding->area->motion->by === Motion::RIDE) {
            return null;
        }
        $at = $this->finding->area->outline->at;
        $from = $at;
        // The last good frame on the way from the outline's frame to the worst one.
        foreach ($this->finding->measures as $frame => $measure) {
            $between = $this->finding->worst() > $at ? $frame >= $at && $frame < $this->finding->worst() : $frame <= $at && $frame > $this->finding->worst();
            if ($between && $measure < $this->finding->limit / 2 && abs($frame - $at) > abs($from - $at)) {
                $from = $frame;
            }
        }

        return Cure::byFollowing($from);
    }

    private function unkeyed(): ?Cure
    {
        $found = false;
        $even = static function (mixed $keyed) use (&$found): mixed {
            if (!is_array($keyed)) {
                return $keyed;
            }
            $found = true;
            $values = array_column($keyed['keys'], 'value');

            return round(array_sum($values) / count($values), 3);
        };
        $cure = $this->area(static function (array $area) use ($even): array {
            $area['strength'] = $even($area['strength']);
            foreach ($area['touches'] as &$touch) {
                $touch['amount'] = $even($touch['amount']);
            }

            return $area;
        });

        return $found ? Cure::byRecipe('Make one value of the keyed strengths', $cure) : null;
    }

    private function softerPick(): ?Cure
    {
        if ($this->document['areas'][$this->at]['pick'] === null) {
            return null;
        }

        return Cure::byRecipe('Soften the pick', $this->area(static function (array $area): array {
            foreach (['hue', 'chroma', 'light'] as $range) {
                $area['pick'][$range][2] = round($area['pick'][$range][2] * 1.6, 4);
            }
            $area['pick']['blur'] = round($area['pick']['blur'] + 0.003, 4);

            return $area;
        }));
    }

    private function weaker(): Cure
    {
        $share = round(max(0.1, self::AIM * $this->finding->limit / $this->finding->measure()), 2);

        return Cure::byRecipe('Lower its strength to ' . self::percent($share), $this->area(static function (array $area) use ($share): array {
            $area['strength'] = self::times($area['strength'], $share);

            return $area;
        }));
    }

    private function guarded(): ?Cure
    {
        $guard = $this->document['areas'][$this->at]['blinkGuard'];
        if ($this->finding->area?->part !== 'iris' || ($guard['on'] && $guard['keys'] === [])) {
            return null;
        }

        return Cure::byRecipe($guard['on'] ? 'Leave it to the lids: take out the guard’s own keyframes' : 'Switch the blink guard on', $this->area(static function (array $area): array {
            $area['blinkGuard'] = ['on' => true, 'keys' => []];

            return $area;
        }));
    }

    private function faded(): ?Cure
    {
        $span = $this->finding->spans()[0];
        $strength = $this->document['areas'][$this->at]['strength'];
        if (is_array($strength)) {
            return null;
        }
        $keys = [];
        foreach ($this->finding->spans() as [$from, $to]) {
            foreach ([[$from - 2, $strength], [$from - 1, 0.0], [$to + 1, 0.0], [$to + 2, $strength]] as [$frame, $value]) {
                if ($frame >= 0 && ($keys === [] || $frame > $keys[count($keys) - 1]['frame'])) {
                    $keys[] = ['frame' => $frame, 'value' => $value, 'ease' => 'smooth'];
                }
            }
        }

        return Cure::byRecipe("Fade it out over frames {$span[0]} to {$span[1]}" . (count($this->finding->spans()) > 1 ? ' and the others' : ''), $this->area(static function (array $area) use ($keys, $strength): array {
            $area['strength'] = ['value' => $strength, 'keys' => $keys];

            return $area;
        }));
    }

    private function lessWhite(): ?Cure
    {
        $share = round(max(0.35, min(0.7, self::AIM * $this->finding->limit / $this->finding->measure())), 2);

        return $this->touches('Whiten by ' . self::percent($share) . ' under a ceiling of 86 %', ['whiten'], static function (array $touch) use ($share): array {
            $touch['ceiling'] = is_array($touch['ceiling']) ? 0.86 : min(0.86, $touch['ceiling']);
            $touch['lift'] = is_array($touch['lift']) ? 0.03 : min(0.03, $touch['lift']);
            $touch['clean'] = is_array($touch['clean']) ? 0.01 : max(0.01, $touch['clean']);
            $touch['amount'] = self::times($touch['amount'], $share);

            return $touch;
        });
    }

    /** @param list<string> $kinds */
    private function lessOf(string $what, array $kinds): ?Cure
    {
        $share = round(max(0.2, self::AIM * $this->finding->limit / $this->finding->measure()), 2);

        return $this->touches("Lower {$what} to " . self::percent($share), $kinds, static function (array $touch) use ($share): array {
            $touch['amount'] = self::times($touch['amount'], $share);

            return $touch;
        });
    }

    private function linked(): ?Cure
    {
        $pair = $this->document['areas'][$this->at]['pair'];
        if ($pair === null || $pair['linked']) {
            return null;
        }
        $other = $this->document['areas'][array_search($pair['with'], array_column($this->document['areas'], 'id'), true)];

        return Cure::byRecipe("Treat it as {$other['name']}", $this->area(static function (array $area): array {
            $area['pair']['linked'] = true;
            $area['touches'] = [];

            return $area;
        }));
    }

    private function calmed(): ?Cure
    {
        return $this->touches('Calm the noise under its tone', ['tone'], static function (array $touch): array {
            $touch['calm'] = is_array($touch['calm']) ? $touch['calm'] : max(0.004, $touch['calm']);

            return $touch;
        });
    }

    private function legal(): Cure
    {
        $document = $this->document;
        $document['finish'] = [...array_filter($document['finish'], static fn(array $touch): bool => $touch['kind'] !== 'legal'), ['id' => self::fresh($document), 'kind' => 'legal', 'on' => true, 'amount' => 1, 'standard' => 'r103', 'knee' => 0.02]];

        return Cure::byRecipe('Keep levels legal, last of all', $document);
    }

    /** @param array<string, mixed> $document */
    private static function fresh(array $document): string
    {
        $text = json_encode($document, JSON_THROW_ON_ERROR);
        for ($n = 1; str_contains($text, "\"legal{$n}\""); ++$n);

        return "legal{$n}";
    }

    /**
     * @param list<string>                                           $kinds
     * @param callable(array<string, mixed>): array<string, mixed>   $change of the area's touches of these kinds
     */
    private function touches(string $words, array $kinds, callable $change): ?Cure
    {
        $document = $this->document;
        $pair = $document['areas'][$this->at]['pair'];
        // A linked area has its touches from the other one.
        $holder = $pair !== null && $pair['linked'] ? array_search($pair['with'], array_column($document['areas'], 'id'), true) : $this->at;
        $found = false;
        foreach ($document['areas'][$holder]['touches'] as &$touch) {
            if ($touch['on'] && in_array($touch['kind'], $kinds, true)) {
                $found = true;
                $touch = $change($touch);
            }
        }

        return $found ? Cure::byRecipe($words, $document) : null;
    }

    /**
     * The recipe with the area changed.
     *
     * @param callable(array<string, mixed>): array<string, mixed> $change
     *
     * @return array<string, mixed>
     */
    private function area(callable $change): array
    {
        $document = $this->document;
        $document['areas'][$this->at] = $change($document['areas'][$this->at]);

        return $document;
    }

    /**
     * @param float|array<string, mixed> $keyed
     *
     * @return float|array<string, mixed>
     */
    private static function times(float|array $keyed, float $share): float|array
    {
        if (!is_array($keyed)) {
            return round($keyed * $share, 3);
        }
        $keyed['value'] = round($keyed['value'] * $share, 3);
        foreach ($keyed['keys'] as &$key) {
            $key['value'] = round($key['value'] * $share, 3);
        }

        return $keyed;
    }

    private static function percent(float $share): string
    {
        return round(100 * $share, 1) . ' %';
    }
}
