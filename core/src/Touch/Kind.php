<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/**
 * A kind of touch: what it may be set to, and what acts when it is. First file to read of this folder; the kinds there are
 * stand in {@see Kinds}, the loops over pixels in Internal.
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
     * Made ready for one frame: all is worked out here that does not hang on pixels.
     *
     * @param array<string, mixed> $values one for every parameter
     */
    public function prepare(array $values, Site $site): Effect|Survey;
}
