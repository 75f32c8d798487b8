<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Noise;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** Noisy pictures softened until they are as quiet as others are: colours of single places are compared in them, and round edges sought. */
final readonly class Quiet implements FrameSource
{
    /** Grain from which a picture is noisy, and what is left of it. */
    private const LOUD = 0.015;
    private const LEFT = 0.008;
    private const WIDEST = 2.0;

    private function __construct(private FrameSource $source, private float $sigma) {}

    /** The source itself where a frame is quiet enough. */
    public static function of(FrameSource $source, int $frame): FrameSource
    {
        $noise = Noise::of($source->luma($frame, $source->frame())->v);

        // A Gaussian leaves 1 / (2 sqrt(pi) sigma) of what differs from pixel to pixel.
        return $noise < self::LOUD ? $source : new self($source, min(self::WIDEST, $noise / self::LEFT / (2 * sqrt(M_PI))));
    }

    public function frame(): Rect
    {
        return $this->source->frame();
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        return Gaussian::blur($this->source->luma($frame, $rect->grow(Gaussian::reach($this->sigma))), $this->sigma)->window($rect);
    }

    public function colour(int $frame, Rect $rect): Planes
    {
        $planes = $this->source->colour($frame, $rect->grow(Gaussian::reach($this->sigma))->intersect($this->frame()));
        [$width, $height] = [$planes->rect->width, $planes->rect->height];
        $soft = array_map(fn(array $v): array => Gaussian::values($v, $width, $height, $this->sigma), [$planes->r, $planes->g, $planes->b]);

        return (new Planes($planes->rect, ...$soft))->window($rect);
    }
}
