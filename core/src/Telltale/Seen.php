<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Touch;

/** An area on one frame as tell-tales see it, with all pictures of it over one rectangle; or, without an area, the whole frame. */
final class Seen
{
    /** @var array<string, LabPlanes> */
    private array $labs = [];
    /** @var list<float>|null */
    private ?array $change = null;

    /**
     * @param Grey        $matte    finished; 1 everywhere on the whole frame
     * @param Planes|null $before   the picture as the area is given it; null where it changes nothing on this frame
     * @param Planes|null $after    and as the area leaves it
     * @param Planes      $result   the whole treated frame
     * @param list<Touch> $touches  what the area does, switched on
     * @param float|null  $openness of the lids over it, 0 to 1; null where it is not known
     * @param TurnedSurface|null $surface it lies on; null where that has no relief
     */
    public function __construct(
        public readonly ?Area $area,
        public readonly Frame $frame,
        public readonly int $number,
        public readonly Grey $matte,
        private readonly ?Planes $before,
        private readonly ?Planes $after,
        public readonly Planes $result,
        public readonly array $touches = [],
        public readonly ?Extent $extent = null,
        public readonly ?float $openness = null,
        public readonly ?TurnedSurface $surface = null,
    ) {}

    public function rect(): Rect
    {
        return $this->matte->rect;
    }

    /** Pixels in a picture height. */
    public function rows(): int
    {
        return $this->frame->format->height;
    }

    /** Whether the area changes something on this frame. */
    public function isTreated(): bool
    {
        return $this->before !== null;
    }

    public function before(): LabPlanes
    {
        return $this->lab('before', fn(): Planes => $this->before ?? $this->result->window($this->rect()));
    }

    public function after(): LabPlanes
    {
        return $this->lab('after', fn(): Planes => $this->after ?? $this->result->window($this->rect()));
    }

    public function untreated(): LabPlanes
    {
        return $this->lab('untreated', fn(): Planes => $this->frame->window($this->rect()));
    }

    public function result(): LabPlanes
    {
        return $this->lab('result', fn(): Planes => $this->result->window($this->rect()));
    }

    /** @return list<float> how far the area moves each pixel, in Oklab */
    public function change(): array
    {
        if ($this->change === null) {
            [$before, $after] = [$this->before(), $this->after()];
            $change = $after->l;
            foreach ($before->l as $i => $l) {
                $dl = $change[$i] - $l;
                $da = $after->a[$i] - $before->a[$i];
                $db = $after->b[$i] - $before->b[$i];
                $change[$i] = sqrt($dl * $dl + $da * $da + $db * $db);
            }
            $this->change = $change;
        }

        return $this->change;
    }

    /** @param \Closure(): Planes $planes */
    private function lab(string $which, \Closure $planes): LabPlanes
    {
        return $this->labs[$which] ??= LabPlanes::of($planes(), $this->rect(), $this->frame->format->transfer);
    }
}
