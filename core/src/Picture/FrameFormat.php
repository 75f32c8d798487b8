<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Colour\YuvMatrix;

/**
 * What a stored frame's bytes mean: three full-size planes of 16-bit little-endian samples, one after the other.
 */
final readonly class FrameFormat
{
    public function __construct(
        public int $width,
        public int $height,
        public Layout $layout = Layout::Yuv,
        public YuvMatrix $matrix = YuvMatrix::Bt709,
        public bool $fullRange = false,
        public Transfer $transfer = Transfer::Bt1886,
    ) {
        if ($width < 1 || $height < 1) {
            throw new \InvalidArgumentException("A frame of {$width}x{$height} has no pixels.");
        }
    }

    public function rect(): Rect
    {
        return Rect::of(0, 0, $this->width, $this->height);
    }

    /** Bytes of one plane. */
    public function planeBytes(): int
    {
        return $this->width * $this->height * 2;
    }

    /** Bytes of a whole frame. */
    public function bytes(): int
    {
        return 3 * $this->planeBytes();
    }

    public function sized(int $width, int $height): self
    {
        return new self($width, $height, $this->layout, $this->matrix, $this->fullRange, $this->transfer);
    }

    /** The code value of black in luma, and of every plane of an RGB frame. */
    public function black(): int
    {
        return $this->fullRange ? 0 : 4096;
    }

    /** Code values from black to reference white (ITU-R BT.709-6 3.4 and BT.2100-2 table 9, scaled to 16 bits). */
    public function lumaSpan(): int
    {
        return $this->fullRange ? 65535 : 56064;
    }

    /**
     * The way from a pixel's codes to R', G', B' of 0 to 255, beyond them where the codes are: for each of these what the three codes count
     * in it, and what is added.
     *
     * @return list<array{float, float, float, float}>
     */
    public function toRgb8(): array
    {
        $luma = 255 / $this->lumaSpan();
        $black = -$this->black() * $luma;
        if ($this->layout === Layout::Rgb) {
            return [[0.0, 0.0, $luma, $black], [$luma, 0.0, 0.0, $black], [0.0, $luma, 0.0, $black]];
        }
        [$kr, $kb] = $this->matrix->weights();
        $chroma = 255 / $this->chromaSpan();
        [$bu, $rv] = [2 * (1 - $kb) * $chroma, 2 * (1 - $kr) * $chroma];
        [$gu, $gv] = [-$kb / (1 - $kr - $kb) * $bu, -$kr / (1 - $kr - $kb) * $rv];

        return [
            [$luma, 0.0, $rv, $black - 32768 * $rv],
            [$luma, $gu, $gv, $black - 32768 * ($gu + $gv)],
            [$luma, $bu, 0.0, $black - 32768 * $bu],
        ];
    }

    /** Code values from -0.5 to +0.5 in a colour difference plane. */
    public function chromaSpan(): int
    {
        return $this->fullRange ? 65535 : 57344;
    }
}
