<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * Reads the pick of an area.
 *
 * @internal
 */
final class PickReader
{
    private const MOST_SAMPLES = 64;

    public function pick(Node $n): Pick
    {
        $n->object(['space', 'samples', 'hue', 'chroma', 'light', 'follow', 'clean', 'blur', 'invert']);
        $n->optional('space', static fn(Node $v): string => $v->word(['oklch']), 'oklch');
        $clean = $n->optional('clean', static fn(Node $v): Node => $v->object(['specks', 'holes']), null);
        $size = static fn(Node $v): float => $v->number(0, 0.1);

        return new Pick(
            $n->optional('samples', static fn(Node $v): array => array_map(self::sample(...), $v->items(0, self::MOST_SAMPLES)), []),
            $n->optional('hue', static fn(Node $v): array => self::hue($v), [0.0, 360.0, 0.0]),
            $n->optional('chroma', static fn(Node $v): array => self::range($v, 0.5, 0.5), [0.0, 0.5, 0.0]),
            $n->optional('light', static fn(Node $v): array => self::range($v, 1.5, 1), [0.0, 1.5, 0.0]),
            $n->optional('follow', static fn(Node $v): ?float => $v->isNull() ? null : $v->number(0, 1.5), null),
            $clean?->optional('specks', $size, 0.0) ?? 0.0,
            $clean?->optional('holes', $size, 0.0) ?? 0.0,
            $n->optional('blur', $size, 0.0),
            $n->optional('invert', static fn(Node $v): bool => $v->flag(), false),
        );
    }

    private static function sample(Node $n): Sample
    {
        $n->object(['frame', 'at', 'rgb', 'sign']);
        [$r, $g, $b] = $n->get('rgb', "R'G'B'")->items(3, 3);

        return new Sample(
            $n->get('frame', 'a frame')->whole(0, RecipeReader::MAX_FRAME),
            $n->get('at', 'a place')->point(),
            [$r->number(-4, 8), $g->number(-4, 8), $b->number(-4, 8)],
            $n->get('sign', '+ or -')->word(['+', '-']) === '+',
        );
    }

    /** @return array{float, float, float} */
    private static function hue(Node $n): array
    {
        [$centre, $width, $soft] = $n->items(3, 3);

        return [$centre->number(0, 360), $width->number(0, 360), $soft->number(0, 180)];
    }

    /** @return array{float, float, float} */
    private static function range(Node $n, float $most, float $softest): array
    {
        [$from, $to, $soft] = $n->items(3, 3);
        $least = $from->number(0, $most);

        return [$least, $to->number($least, $most), $soft->number(0, $softest)];
    }
}
