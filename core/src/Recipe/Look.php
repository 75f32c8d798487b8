<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** What of the picture a follower looks at: the outline with a margin round it, or one or two small spots. */
final readonly class Look
{
    /**
     * @param float                     $margin round the outline, picture heights
     * @param list<array{float, float}> $spots  centres on the outline's frame, picture heights; none to look by the outline
     * @param float                     $radius of a spot, picture heights
     */
    public function __construct(public float $margin = 0.0, public array $spots = [], public float $radius = 0.0) {}
}
