<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Sight;
use Cossel\Core\Touch\Site;

/**
 * A touch on one frame: its settings there, how strongly it acts, and what it looks at.
 *
 * @internal
 */
final readonly class Act
{
    /** @param array<string, mixed> $values */
    private function __construct(public Kind $kind, public array $values, public float $amount, public Side $side, public Sight $sight) {}

    /**
     * The touches that change something on a frame.
     *
     * @param list<Touch> $touches
     * @param float       $inside  strength of those on the inside
     * @param float       $outside and on the outside
     *
     * @return list<self>
     */
    public static function of(array $touches, Site $site, float $inside = 1.0, float $outside = 1.0): array
    {
        $acts = [];
        foreach ($touches as $touch) {
            $amount = $touch->on ? $touch->amount->at($site->number) * ($touch->side === Side::Inside ? $inside : $outside) : 0.0;
            if ($amount <= 0.0) {
                continue;
            }
            $values = $touch->values($site->number);
            if (!$touch->kind->isNeutral($values)) {
                $acts[] = new self($touch->kind, $values, $amount, $touch->side, $touch->kind->sight($values, $site));
            }
        }

        return $acts;
    }
}
