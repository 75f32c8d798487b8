<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Smooth;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Teeth without their yellow, and lighter. */
final readonly class WhitenEffect implements Effect
{
    use Pointwise;

    private const BEND = 0.06;

    public function __construct(
        private float $yellow,
        private float $lift,
        private float $ceiling,
        private float $clean,
        private float $gums,
        private float $dark,
        private Transfer $transfer,
    ) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $lab = LabPlanes::of($planes, $weight->rect(), $this->transfer);
        foreach ($lab->b as $i => $b) {
            $l = $lab->l[$i];
            $a = $lab->a[$i];
            $t = (1 - Smooth::step($this->gums - 0.012, $this->gums + 0.012, $a - 0.25 * $b)) * Smooth::step(
                $this->dark - 0.08,
                $this->dark + 0.08,
                $l,
            );
            if ($t === 0.0) {
                continue;
            }
            $lab->b[$i] = $b - $this->yellow * $t * max(0.0, $b - $this->clean);
            $lab->a[$i] = $a - $this->yellow * $t * max(0.0, $a);
            $lab->l[$i] = $l + $t * max(0.0, self::bent($l + $this->lift, $this->ceiling) - $l);
        }
        $lab->into($planes, $weight, $this->transfer);
    }

    /** Lightness that comes ever closer to the ceiling and never over it. */
    private static function bent(float $l, float $ceiling): float
    {
        $from = $ceiling - self::BEND;

        return $l <= $from ? $l : $ceiling - self::BEND * self::BEND / ($l - $from + self::BEND);
    }
}
