<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;

/** What an iris looks like between its pupil and its edge. */
final readonly class IrisSurvey extends ColourSurvey
{
    /** @param array<string, mixed> $values see {@see \Cossel\Core\Touch\Iris} */
    public function __construct(private array $values, Site $site)
    {
        parent::__construct($site);
    }

    public function effect(AreaPicture $picture): Effect
    {
        $area = AreaLab::of($picture, $this->site->transfer());
        $lab = $area->shown;
        $disc = new IrisDisc($this->site->extent(), $this->site->rows());
        $fibres = $picture->matte->v;
        foreach ($disc->distances($picture->blocks->rect, $picture->blocks->side) as $i => $r) {
            if ($r <= $this->values['pupil'] + 0.06 || $r >= 0.95) {
                $fibres[$i] = 0.0;
            }
        }

        return new IrisEffect(
            $this->values,
            $area,
            $disc,
            Robust::of($lab->l, $fibres)[0],
            Robust::quantile($lab->l, $fibres, 0.8),
            1 / max(0.01, Robust::of(array_map(hypot(...), $lab->a, $lab->b), $fibres)[0]),
            $this->site->transfer(),
        );
    }
}
