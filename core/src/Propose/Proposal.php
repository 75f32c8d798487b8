<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Recipe\Area;

/** An area that is proposed. */
final readonly class Proposal
{
    /** @param string|null $doubt why it should not be taken unseen: a part of a sentence; null when it is sure */
    public function __construct(public Area $area, public ?string $doubt = null) {}
}
