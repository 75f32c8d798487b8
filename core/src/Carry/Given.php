<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Effect;
use Cossel\Core\Touch\Site;

/** A sample of the pixels that an area is given, from some frames, in one row. */
final readonly class Given
{
    /** Pixels taken of a frame. */
    private const MOST = 400;

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    private function __construct(private array $r, private array $g, private array $b, private ?Frame $frame) {}

    public static function none(): self
    {
        return new self([], [], [], null);
    }

    /** With those of one more frame that lie under a matte. */
    public function with(Planes $planes, Grey $matte, Frame $frame): self
    {
        $under = array_keys(array_filter($matte->v, static fn(float $k): bool => $k >= 0.5));
        $step = max(1, intdiv(count($under), self::MOST));
        [$r, $g, $b] = [$this->r, $this->g, $this->b];
        for ($k = 0; $k < count($under); $k += $step) {
            $r[] = $planes->r[$under[$k]];
            $g[] = $planes->g[$under[$k]];
            $b[] = $planes->b[$under[$k]];
        }

        return new self($r, $g, $b, $frame);
    }

    /** What they look like under a touch that looks at each pixel alone; null where there are too few. */
    public function tones(Touch $touch): ?Tones
    {
        if ($this->frame === null || $this->r === []) {
            return null;
        }
        $row = Rect::of(0, 0, count($this->r), 1);
        $planes = new Planes($row, $this->r, $this->g, $this->b);
        $effect = $touch->kind->prepare($touch->values(0), new Site(0, $this->frame));
        if (!$effect instanceof Effect) {
            throw new \LogicException("The touch {$touch->kind->name()} looks at more than a pixel.");
        }
        $effect->apply($planes, Weight::everywhere($row, 1.0));

        return Tones::of(LabPlanes::of($planes, $row, $this->frame->format->transfer), Grey::filled($row, 1.0));
    }
}
