<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;

/**
 * A kind of touch: what it may be set to and what it does to pixels. First file to read of this folder; the kinds
 * there are stand in {@see Kinds}. What it looks at besides the pixel itself is its {@see Sight}.
 */
interface Kind
{
    /** The word for it in a recipe. */
    public function name(): string;

    /** @return list<Parameter> */
    public function parameters(): array;

    /**
     * Whether these values change nothing. The renderer leaves such a touch out.
     *
     * @param array<string, mixed> $values one for every parameter
     */
    public function isNeutral(array $values): bool;

    /**
     * What has to be there before it can act.
     *
     * @param array<string, mixed> $values one for every parameter
     */
    public function sight(array $values, Site $site): Sight;

    /**
     * Changes the planes in place: in + (touched - in) x weight. Where the weight is 0, nothing changes, bit for bit.
     * The planes reach beyond the weight's rectangle as far as its sight asks for, but not beyond the picture.
     *
     * @param Planes               $planes display-referred R'G'B', unclipped
     * @param Weight               $weight over a rectangle inside the planes' own
     * @param array<string, mixed> $values one for every parameter
     */
    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void;
}
