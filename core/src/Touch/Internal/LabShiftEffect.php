<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** The same added to every pixel's Oklab. */
final readonly class LabShiftEffect implements Effect
{
    use Pointwise;

    public function __construct(
        private AreaLab $area,
        private float $light,
        private float $red,
        private float $yellow,
        private Transfer $transfer,
    ) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $lab = $this->area->over($planes, $weight->rect());
        self::add($lab->l, $this->light);
        self::add($lab->a, $this->red);
        self::add($lab->b, $this->yellow);
        $lab->into($planes, $weight, $this->transfer);
    }

    /** @param list<float> $v */
    private static function add(array &$v, float $shift): void
    {
        if ($shift === 0.0) {
            return;
        }
        foreach ($v as $i => $x) {
            $v[$i] = $x + $shift;
        }
    }
}
