<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;

/** How far an area's mean colour is from a target. */
final readonly class MatchSurvey extends ColourSurvey
{
    /** @param array{float, float, float} $target Oklab */
    public function __construct(private float $light, private float $colour, private array $target, Site $site)
    {
        parent::__construct($site);
    }

    public function effect(AreaPicture $picture): Effect
    {
        $area = AreaLab::of($picture, $this->site->transfer());
        $lab = $area->shown;
        $shift = static fn(array $v, float $target, float $share): float => $share * ($target - Robust::of($v, $picture->matte->v)[0]);

        return new LabShiftEffect(
            $area,
            $shift($lab->l, $this->target[0], $this->light),
            $shift($lab->a, $this->target[1], $this->colour),
            $shift($lab->b, $this->target[2], $this->colour),
            $this->site->transfer(),
        );
    }
}
