<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Asset;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Insert;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Sparing;
use Cossel\Core\Touch\Survey;

/**
 * A touch on one frame: what acts, how strongly, and its price in nanoseconds a pixel. One that has to see its area first acts
 * once it was shown it.
 *
 * @internal
 */
final class Act
{
    /**
     * @param string $id     of the touch
     * @param string $as     all it does, but for where it is: alike for two that make the same of the same
     * @param bool   $placed whether it acts by where the area is, outside its matte too
     */
    private function __construct(
        private Effect|Survey $does,
        public readonly float $amount,
        public readonly Side $side,
        public readonly float $price,
        public readonly string $id,
        public readonly string $as,
        public readonly bool $placed,
    ) {}

    /**
     * The touches that change something on a frame.
     *
     * @param list<Touch>                                        $touches
     * @param array<string, array{sha256: string, kind: string}> $assets  what files these touches may name
     * @param float                                              $inside  strength of those on the inside
     * @param float                                              $outside and on the outside
     *
     * @return list<self>
     */
    public static function of(array $touches, array $assets, Site $site, float $inside = 1.0, float $outside = 1.0): array
    {
        $acts = [];
        foreach ($touches as $touch) {
            $amount = $touch->on ? $touch->amount->at($site->number) * ($touch->side === Side::Inside ? $inside : $outside) : 0.0;
            if ($amount <= 0.0) {
                continue;
            }
            $values = $touch->values($site->number);
            if (!$touch->kind->isNeutral($values)) {
                $acts[] = new self(
                    $touch->kind->prepare($values, $site),
                    $amount,
                    $touch->side,
                    Prices::of($touch->kind),
                    $touch->id,
                    self::does($touch, $values, $amount, $assets),
                    $touch->kind instanceof Insert,
                );
            }
        }

        return $acts;
    }

    /**
     * @param array<string, mixed>                               $values
     * @param array<string, array{sha256: string, kind: string}> $assets
     */
    private static function does(Touch $touch, array $values, float $amount, array $assets): string
    {
        foreach ($touch->kind->parameters() as $parameter) {
            if ($parameter instanceof Asset) {
                $values[$parameter->name] = $assets[$values[$parameter->name]] ?? null;
            }
        }

        return json_encode([$touch->kind->name(), $touch->side->value, $amount, $values], JSON_THROW_ON_ERROR);
    }

    /** What has yet to be shown the area, or null. */
    public function survey(): ?Survey
    {
        return $this->does instanceof Survey ? $this->does : null;
    }

    /** Whether it makes of a pixel what hangs on that pixel's colour alone. */
    public function isPointwise(): bool
    {
        $pixel = Rect::of(64, 64, 1, 1);

        return !$this->does instanceof Survey && !$this->placed && $this->does->needs($pixel) == $pixel;
    }

    /** What leaves most of a frame as it is and can tell so, or null. */
    public function sparing(): ?Sparing
    {
        return $this->does instanceof Sparing ? $this->does : null;
    }

    public function show(AreaPicture $picture): void
    {
        if ($this->does instanceof Survey) {
            $this->does = $this->does->effect($picture);
        }
    }

    /** What it goes through to act over a rectangle: around a small area, what looks far goes through far more than that. */
    public function works(Rect $rect): Rect
    {
        return $rect->isEmpty() ? $rect : $this->does->needs($rect);
    }

    /** Where the picture has to be right for it to act over a rectangle, as if the picture had no edges. */
    public function needs(Rect $rect): Rect
    {
        $needs = $this->does->needs($rect);

        return $this->does instanceof Survey ? $needs->union($this->does->sees()) : $needs;
    }

    /**
     * Where it makes something else, acting over a rectangle, of a picture that is another in a part of it.
     *
     * @param Rect $changed that part
     * @param Rect $target  where it acts
     */
    public function spread(Rect $changed, Rect $target): Rect
    {
        if ($changed->isEmpty()) {
            return $changed;
        }
        if ($this->does instanceof Survey && !$this->does->sees()->intersect($changed)->isEmpty()) {
            return $changed->union($target);
        }
        // What a pixel looks at on one side makes it hang on what is there: the other way round.
        $needs = $this->does->needs($changed);
        $spread = Rect::edges(
            $changed->x + $changed->right() - $needs->right(),
            $changed->y + $changed->bottom() - $needs->bottom(),
            $changed->right() + $changed->x - $needs->x,
            $changed->bottom() + $changed->y - $needs->y,
        );

        return $changed->union($spread->intersect($target));
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        if ($this->does instanceof Survey) {
            throw new \LogicException('The area has to be shown first.');
        }
        $this->does->apply($planes, $weight);
    }
}
