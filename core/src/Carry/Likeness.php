<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Face\Descriptor;

/**
 * What tells a person from others in whatever light: their face's descriptor; where one of two has none, how much lighter or darker irises
 * and lips are than the skin, and by how much they differ from it in Oklab a and b, of untreated pictures.
 */
final readonly class Likeness
{
    private const SKIN = ['face', 'skin'];
    /** How far apart colours of one person may be. */
    private const COLOURS = 0.06;

    /** @param array<string, array{float, float, float}> $features by place */
    private function __construct(private array $features, private ?Descriptor $face) {}

    /**
     * @param array<string, Tones> $tones by place, such as "iris left"
     *
     * @return self|null null where too little is seen of the person
     */
    public static function of(array $tones, ?Descriptor $face = null): ?self
    {
        $features = self::features($tones);

        return $features === [] && $face === null ? null : new self($features, $face);
    }

    /**
     * @param array<string, Tones> $tones
     *
     * @return array<string, array{float, float, float}> by place
     */
    private static function features(array $tones): array
    {
        $skin = $tones[self::SKIN[0]] ?? $tones[self::SKIN[1]] ?? null;
        $features = [];
        foreach ($skin === null || $skin->mean[0] <= 0.0 ? [] : $tones as $place => $of) {
            if (str_starts_with($place, 'iris') || $place === 'lips') {
                // Both eyes of a person are alike, and one of them may be hidden.
                $part = explode(' ', $place)[0];
                $features[$part][] = array_map(static fn(float $v, float $s): float => ($v - $s) / $skin->mean[0], $of->mean, $skin->mean);
            }
        }
        $column = static fn(array $all, int $i): float => array_sum(array_column($all, $i)) / count($all);
        $mean = static fn(array $all): array => [$column($all, 0), $column($all, 1), $column($all, 2)];

        return array_map($mean, $features);
    }

    /** Whether both are told by their faces, and not by colours. */
    public function isOfFaces(self $other): bool
    {
        return $this->face !== null && $other->face !== null;
    }

    /**
     * How far apart two are, in what one person may differ by.
     *
     * @return float|null 0 where they are alike, over 1 where they are two people; null where nothing is seen of both
     */
    public function apart(self $other): ?float
    {
        if ($this->face !== null && $other->face !== null) {
            return $this->face->apart($other->face);
        }
        $sum = 0.0;
        $common = array_intersect_key($this->features, $other->features);
        foreach ($common as $part => $feature) {
            foreach ($feature as $i => $v) {
                // Lightness varies with the light from one side; colour tells more.
                $sum += ($i === 0 ? 0.25 : 1.0) * ($v - $other->features[$part][$i]) ** 2;
            }
        }

        return $common === [] ? null : sqrt($sum / count($common)) / self::COLOURS;
    }

    /** @return array{features: array<string, array{float, float, float}>, face: string|null} */
    public function document(): array
    {
        return ['features' => $this->features, 'face' => $this->face === null ? null : base64_encode($this->face->bytes())];
    }

    /** @param array{features: array<string, array{float, float, float}>, face?: string|null} $document as {@see document} gives it */
    public static function known(array $document): self
    {
        $face = $document['face'] ?? null;

        return new self($document['features'], $face === null ? null : Descriptor::of((string) base64_decode($face, true)));
    }
}
