<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * The selection by colour inside an outline: ranges of Oklab hue (degrees), chroma and lightness, each with a softness
 * beyond it; the samples they were proposed from are kept for the record.
 */
final readonly class Pick
{
    /**
     * @param list<Sample>               $samples
     * @param array{float, float, float} $hue    centre, whole width, softness; a width of 360 takes every hue
     * @param array{float, float, float} $chroma least, most, softness
     * @param array{float, float, float} $light  least, most, softness
     * @param float|null                 $follow mean lightness of the area where the ranges were set; the range of lightness
     *                                           moves with the mean from there. Null leaves it where it is
     * @param float                      $specks size of islands taken away, picture heights
     * @param float                      $holes  size of holes filled, picture heights
     * @param float                      $blur   sigma, picture heights
     */
    public function __construct(
        public array $samples = [],
        public array $hue = [0.0, 360.0, 0.0],
        public array $chroma = [0.0, 0.5, 0.0],
        public array $light = [0.0, 1.5, 0.0],
        public ?float $follow = null,
        public float $specks = 0.0,
        public float $holes = 0.0,
        public float $blur = 0.0,
        public bool $invert = false,
    ) {}

    /**
     * @param list<Sample>               $samples
     * @param array{float, float, float} $hue
     * @param array{float, float, float} $chroma
     * @param array{float, float, float} $light
     */
    public function withRanges(array $samples, array $hue, array $chroma, array $light, ?float $follow): self
    {
        return new self($samples, $hue, $chroma, $light, $follow, $this->specks, $this->holes, $this->blur, $this->invert);
    }

    public function withBlur(float $blur): self
    {
        return new self(
            $this->samples,
            $this->hue,
            $this->chroma,
            $this->light,
            $this->follow,
            $this->specks,
            $this->holes,
            $blur,
            $this->invert,
        );
    }
}
