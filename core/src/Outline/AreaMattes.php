<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;

/** The mattes of areas on one frame. One that others are made of is drawn once for all of them. */
final class AreaMattes
{
    /** @var array<string, SharedMatte> by area */
    private array $shared = [];

    /**
     * @param Rect       $frame   the whole picture in pixels
     * @param Frame|null $picture untreated, which people are seen in; null where only bounds are asked for
     */
    public function __construct(
        private readonly int $number,
        private readonly Poses $poses,
        private readonly Rect $frame,
        private readonly ?Frame $picture = null,
    ) {}

    /** Of an area as it is given, with whatever outline. */
    public function of(Area $area): AreaMatte
    {
        return AreaMatte::of($area, $this->number, $this->poses, $this->frame, $this->picture, $this->shared(...));
    }

    private function shared(string $id): SharedMatte
    {
        return $this->shared[$id] ??= new SharedMatte($this->of($this->poses->area($id)));
    }
}
