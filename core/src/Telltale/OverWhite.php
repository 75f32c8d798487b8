<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\Robust;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;

/**
 * Teeth that outshine the face. Over what looks like teeth under the matte, in Oklab of the finished frame: by how much the
 * lightness that 95 % of them stay below is over .88 (or over what it was untreated, or as the area is given it: a bright
 * shot is no whitening); by how much their mean is lighter, or their mean b lower, than that of the whites of the same
 * person's eyes, where an area holds these (the third of its pixels that is lightest and has a chroma under .06); without
 * them, by how much b is lower than .005 under neutral; less by how much they were so in the untreated frame already: what the
 * footage has is not the treatment's. The greatest of these, in hundredths.
 */
final readonly class OverWhite extends Telltale
{
    private const CEILING = 0.88;
    private const FEW = 20;
    /** Oklab b that no tooth is under. */
    private const BLUE = -0.005;
    private const EYES = [Part::Eye, Part::Lids, Part::Whites];

    public function __construct()
    {
        parent::__construct(
            'over-white',
            'The teeth are lighter or bluer than the whites of the eyes, or too light for any.',
            unit: '% of lightness',
            limit: 1.0,
            most: 20.0,
        );
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area?->is(Part::Teeth, ...self::EYES) === true;
    }

    public function look(Seen $seen): ?array
    {
        $result = $seen->result();
        $untreated = $seen->untreated();
        $w = $seen->matte->v;
        $n = 0;
        $isTeeth = $seen->area?->is(Part::Teeth) === true;
        $least = $isTeeth ? 0.0 : Robust::quantile($result->l, $w, 0.67);
        foreach ($w as $i => $k) {
            $w[$i] = $k > 0.5 && ($isTeeth ? Tooth::at($untreated, $i) : $result->l[$i] >= $least && hypot(
                $result->a[$i],
                $result->b[$i],
            ) < 0.06) ? 1.0 : 0.0;
            $n += (int) $w[$i];
        }
        if ($n < self::FEW || ($isTeeth && !$seen->isTreated())) {
            return null;
        }

        return array_map(static fn(float $v): float => round($v, 4), [
            Robust::of($result->l, $w)[0],
            Robust::of($result->b, $w)[0],
            Robust::quantile($result->l, $w, 0.95),
            max(Robust::quantile($untreated->l, $w, 0.95), Robust::quantile($seen->before()->l, $w, 0.95)),
            Robust::of($untreated->l, $w)[0],
            Robust::of($untreated->b, $w)[0],
        ]);
    }

    public function measures(array $looks, Recipe $recipe, ?Area $area): array
    {
        if ($area === null || !$area->is(Part::Teeth)) {
            return [];
        }
        $measures = [];
        foreach ($looks[$area->id] ?? [] as $frame => [$l, $b, $most, $was, $untreatedL, $untreatedB]) {
            $over = $most - max(self::CEILING, $was);
            $eyes = array_filter(array_map(static fn(array $of): ?array => $of[$frame] ?? null, self::eyes($looks, $recipe, $area)));
            $bluest = static fn(int $of): float => $eyes === [] ? self::BLUE : min(array_column($eyes, $of));
            $over = max($over, $bluest(1) - $b - max(0.0, $bluest(5) - $untreatedB));
            if ($eyes !== []) {
                $over = max($over, $l - max(array_column($eyes, 0)) - max(0.0, $untreatedL - max(array_column($eyes, 4))));
            }
            $measures[$frame] = 100 * max(0.0, $over);
        }

        return $measures;
    }

    public function before(array $looks, Recipe $recipe, ?Area $area): ?string
    {
        if ($area === null || !$area->is(Part::Teeth)) {
            return null;
        }
        $lighter = $bluer = $frames = 0;
        foreach ($looks[$area->id] ?? [] as $frame => [, , , , $l, $b]) {
            $eyes = array_filter(array_map(static fn(array $of): ?array => $of[$frame] ?? null, self::eyes($looks, $recipe, $area)));
            if ($eyes !== []) {
                ++$frames;
                $lighter += (int) (100 * ($l - max(array_column($eyes, 4))) > $this->limit);
                $bluer += (int) (100 * (min(array_column($eyes, 5)) - $b) > $this->limit);
            }
        }
        $words = array_keys(array_filter(['lighter' => 2 * $lighter > $frames, 'bluer' => 2 * $bluer > $frames]));

        return $words === [] ? null : 'The teeth were ' . implode(' and ', $words) . ' than the eyes before; only what is added counts.';
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        $share = round(max(0.35, min(0.7, Cure::AIM / $finding->excess())), 2);
        $words = 'Whiten by ' . Cure::percent($share) . ' under a ceiling of 86 %';
        $less = Cure::touches($words, $finding, $recipe, ['whiten'], static fn(Touch $touch): Touch => $touch
            ->changed('ceiling', static fn(float $v): float => min(0.86, $v))
            ->changed('lift', static fn(float $v): float => min(0.03, $v))
            ->changed('clean', static fn(float $v): float => max(0.01, $v))
            ->withAmount($touch->amount->times($share)));

        return [$less ?? Cure::weaker($finding, $recipe)];
    }

    /**
     * The looks of areas that hold the whites of the same person's eyes.
     *
     * @param array<string, array<int, list<float>>> $looks
     *
     * @return list<array<int, list<float>>>
     */
    private static function eyes(array $looks, Recipe $recipe, Area $area): array
    {
        $eyes = array_filter($recipe->areas, static fn(Area $other): bool => $other->is(...self::EYES) && $other->person === $area->person);

        return array_values(array_filter(array_map(static fn(Area $eye): ?array => $looks[$eye->id] ?? null, $eyes)));
    }
}
