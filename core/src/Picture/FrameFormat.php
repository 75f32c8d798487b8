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

    /** Code values from -0.5 to +0.5 in a colour difference plane. */
    public function chromaSpan(): int
    {
        return $this->fullRange ? 65535 : 57344;
    }
}
