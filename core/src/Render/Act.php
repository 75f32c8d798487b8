<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;

/**
 * A touch on one frame: what acts, how strongly, and its price in nanoseconds a pixel. One that has to see its area first acts
 * once it was shown it.
 *
 * @internal
 */
final class Act
{
    private function __construct(
        private Effect|Survey $does,
        public readonly float $amount,
        public readonly Side $side,
        public readonly float $price,
    ) {}

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
                $acts[] = new self($touch->kind->prepare($values, $site), $amount, $touch->side, Prices::of($touch->kind));
            }
        }

        return $acts;
    }

    /** What has yet to be shown the area, or null. */
    public function survey(): ?Survey
    {
        return $this->does instanceof Survey ? $this->does : null;
    }

    public function show(AreaPicture $picture): void
    {
        if ($this->does instanceof Survey) {
            $this->does = $this->does->effect($picture);
        }
    }

    /** Where the picture has to be right for it to act over a rectangle, as if the picture had no edges. */
    public function needs(Rect $rect): Rect
    {
        $needs = $this->does->needs($rect);

        return $this->does instanceof Survey ? $needs->union($this->does->sees()) : $needs;
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        if ($this->does instanceof Survey) {
            throw new \LogicException('The area has to be shown first.');
        }
        $this->does->apply($planes, $weight);
    }
}
