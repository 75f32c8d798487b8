<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Weight;

/**
 * A touch of base or finish.
 *
 * @internal
 */
final readonly class Everywhere implements Stage
{
    public function __construct(private Act $act, private Site $site) {}

    public function isPointwise(): bool
    {
        return $this->act->sight->margin === 0;
    }

    public function needs(Rect $rect): Rect
    {
        return $rect->grow($this->act->sight->margin)->intersect($this->site->untreated->format->rect());
    }

    public function apply(Planes $planes, Rect $rect): void
    {
        $this->act->kind->apply($planes, Weight::everywhere($rect, $this->act->amount), $this->act->values, $this->site);
    }
}
