<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\State;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\NoAssets;

/** What areas of a recipe look like in the finished frames. */
final class AreaTones
{
    /** Openness of lids and lips from which what lies between is looked at. */
    private const OPEN = 0.6;

    private readonly FrameRenderer $renderer;

    /** @param array<int, Frame> $frames by number: some of the shot */
    public function __construct(
        Recipe $recipe,
        private readonly Motions $motions,
        private readonly array $frames,
        Assets $assets = new NoAssets(),
    ) {
        $this->renderer = new FrameRenderer($recipe, $motions, $assets);
    }

    /** Over all frames on which it is seen; null where it is on none. */
    public function of(Area $area): ?Tones
    {
        $all = [];
        foreach ($this->seen($area) as $number => [$frame, $rect]) {
            $planes = Planes::joined($rect, $this->renderer->bands($frame, $number, $rect));
            $matte = $this->renderer->matte($frame, $area, $number, $rect);
            $all[] = Tones::of(LabPlanes::of($planes, $rect, $frame->format->transfer), $matte);
        }
        $all = array_values(array_filter($all));

        return $all === [] ? null : Tones::mean($all);
    }

    /** What it is given, whatever it picks of that: means over all frames on which it is seen. */
    public function before(Area $area): ?Tones
    {
        return $this->given($area->withPick(null))->tones(Matching::neutral(''));
    }

    /** The pixels it is given, of all frames in a row. */
    public function given(Area $area): Given
    {
        $given = Given::none();
        foreach ($this->seen($area) as $number => [$frame, $rect]) {
            $matte = $this->renderer->matte($frame, $area, $number, $rect);
            $given = $given->with($this->renderer->before($frame, $area, $number, $rect), $matte, $frame);
        }

        return $given;
    }

    /** The pixels of the footage itself where it lies, of all frames in a row. */
    public function untreated(Area $area): Given
    {
        $given = Given::none();
        foreach ($this->seen($area) as $number => [$frame, $rect]) {
            $given = $given->with($frame->window($rect), $this->renderer->matte($frame, $area, $number, $rect), $frame);
        }

        return $given;
    }

    /**
     * The frames that show it, those on which something hides it only where there are no others.
     *
     * @return array<int, array{Frame, Rect}>
     */
    private function seen(Area $area): array
    {
        $seen = $hidden = [];
        foreach ($this->frames as $number => $frame) {
            $rect = AreaMatte::on($area, $number, $this->motions, $frame->format->rect())->bounds();
            $isLive = $number >= $area->live->from && $number <= $area->live->to;
            if ($isLive && !$rect->isEmpty() && ($this->motions->openness($area, $number) ?? 1.0) >= self::OPEN) {
                $this->isHidden($area, $number) ? $hidden[$number] = [$frame, $rect] : $seen[$number] = [$frame, $rect];
            }
        }

        return $seen === [] ? $hidden : $seen;
    }

    /** Whether it, or what it rides on, was not found in the picture on a frame. */
    private function isHidden(Area $area, int $number): bool
    {
        $state = $this->motions->track($area, $area->motion)?->steps[$number]->state ?? null;

        return in_array($state, [State::Bridged, State::Lost], true)
            || ($area->motion->on !== null && $this->isHidden($this->motions->area($area->motion->on), $number));
    }
}
