<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

/**
 * What tells a person from others in whatever light: how much lighter or darker irises and lips are than the skin, and by how much
 * they differ from it in Oklab a and b, of untreated pictures.
 */
final readonly class Likeness
{
    private const SKIN = ['face', 'skin'];

    /** @param array<string, array{float, float, float}> $features by place */
    private function __construct(private array $features) {}

    /**
     * @param array<string, Tones> $tones by place, such as "iris left"
     *
     * @return self|null null where too little is seen of the person
     */
    public static function of(array $tones): ?self
    {
        $skin = $tones[self::SKIN[0]] ?? $tones[self::SKIN[1]] ?? null;
        if ($skin === null || $skin->mean[0] <= 0.0) {
            return null;
        }
        $features = [];
        foreach ($tones as $place => $of) {
            if (str_starts_with($place, 'iris') || $place === 'lips') {
                // Both eyes of a person are alike, and one of them may be hidden.
                $part = explode(' ', $place)[0];
                $features[$part][] = array_map(static fn(float $v, float $s): float => ($v - $s) / $skin->mean[0], $of->mean, $skin->mean);
            }
        }
        $column = static fn(array $all, int $i): float => array_sum(array_column($all, $i)) / count($all);
        $mean = static fn(array $all): array => [$column($all, 0), $column($all, 1), $column($all, 2)];

        return $features === [] ? null : new self(array_map($mean, $features));
    }

    /** @return float|null root mean square over what is seen of both; 0 where they are alike. Null where nothing is */
    public function apart(self $other): ?float
    {
        $sum = 0.0;
        $common = array_intersect_key($this->features, $other->features);
        foreach ($common as $part => $feature) {
            foreach ($feature as $i => $v) {
                // Lightness varies with the light from one side; colour tells more.
                $sum += ($i === 0 ? 0.25 : 1.0) * ($v - $other->features[$part][$i]) ** 2;
            }
        }

        return $common === [] ? null : sqrt($sum / count($common));
    }

    /** @return array<string, list<float>> */
    public function document(): array
    {
        return $this->features;
    }

    /** @param array<string, array{float, float, float}> $features as {@see document} gives them */
    public static function known(array $features): self
    {
        return new self($features);
    }
}
