<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\LegalEffect;

/**
 * Keeps levels inside the preferred range of EBU R 103 (version 3.0, 2020): R', G', B' from -5 % to 105 %, luma from
 * -1 % to 103 %. A soft knee begins `knee` before each limit: beyond it a value v becomes limit - knee² / (v - limit +
 * 2 knee), which joins with slope 1 and comes ever closer to the limit. First each channel, then luma by the same amount
 * on all three. What lies between the knees stays as it is, bit for bit.
 */
final class Legal implements Kind
{
    public const LEAST = -0.05;
    public const MOST = 1.05;
    public const LEAST_LUMA = -0.01;
    public const MOST_LUMA = 1.03;

    public function name(): string
    {
        return 'legal';
    }

    public function parameters(): array
    {
        return [new Choice('standard', ['r103']), new Number('knee', 0, 0.1, 0.02)];
    }

    public function isNeutral(array $values): bool
    {
        return false;
    }

    public function prepare(array $values, Site $site): Effect
    {
        return new LegalEffect(max(1e-9, $values['knee']));
    }
}
