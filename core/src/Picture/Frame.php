<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * One untreated frame as it is stored: the bytes of three 16-bit planes and what they mean. Kernel class: the loops
 * read through a flat C view of the bytes, which is several times quicker than unpacking them.
 *
 * The way to R'G'B' and back is exact: a pixel nobody changed gets back the very code values it came from.
 */
final class Frame
{
    private ?\FFI\CData $samples = null;

    /** @throws \LengthException when the bytes are not exactly one frame of this format */
    public function __construct(public readonly FrameFormat $format, public readonly string $bytes)
    {
        if (strlen($bytes) !== $format->bytes()) {
            throw new \LengthException(
                sprintf('A %dx%d frame takes %d bytes, %d given.', $format->width, $format->height, $format->bytes(), strlen($bytes)),
            );
        }
    }

    /** The R'G'B' of a rectangle inside the frame, values beyond black and white kept. */
    public function window(Rect $rect): Planes
    {
        $planes = Planes::filled($rect, 0.0, 0.0, 0.0);
        if ($this->format->layout === Layout::Yuv) {
            $this->readYuv($planes);
        } else {
            $this->readRgb($planes);
        }

        return $planes;
    }

    /** The luma of a rectangle, 0 black to 1 white, as the follower looks at it. Outside the frame the edge goes on. */
    public function luma(Rect $rect): Grey
    {
        $p = $this->samples();
        $width = $this->format->width;
        $height = $this->format->height;
        $count = $width * $height;
        $black = $this->format->black();
        $scale = 1.0 / $this->format->lumaSpan();
        $yuv = $this->format->layout === Layout::Yuv;
        [$kr, $kb] = $this->format->matrix->weights();
        $kg = 1.0 - $kr - $kb;
        $out = array_fill(0, $rect->count(), 0.0);
        // At least the column next to the rectangle.
        $left = max(0, min($width - 1, $rect->x));
        $right = max($left + 1, min($width, $rect->right()));
        $i = 0;
        for ($y = $rect->y, $bottom = $rect->bottom(); $y < $bottom; ++$y) {
            $row = max(0, min($height - 1, $y)) * $width;
            $line = [];
            if ($yuv) {
                for ($k = $row + $left, $end = $row + $right; $k < $end; ++$k) {
                    $line[] = ($p[$k] - $black) * $scale;
                }
            } else {
                for ($k = $row + $left, $end = $row + $right; $k < $end; ++$k) {
                    $line[] = ($kg * $p[$k] + $kb * $p[$k + $count] + $kr * $p[$k + 2 * $count] - $black) * $scale;
                }
            }
            $last = $right - $left - 1;
            for ($k = $i, $x = $rect->x - $left, $end = $i + $rect->width; $k < $end; ++$k, ++$x) {
                $out[$k] = $line[$x < 0 ? 0 : ($x > $last ? $last : $x)];
            }
            $i += $rect->width;
        }

        return new Grey($rect, $out);
    }

    /**
     * The bytes of this frame with some windows replaced.
     *
     * @param iterable<Planes> $patches inside the frame
     */
    public function patched(iterable $patches): string
    {
        $size = $this->format->bytes();
        $p = null;
        foreach ($patches as $patch) {
            if ($p === null) {
                $bytes = $this->bytes;
                $p = Memory::of("uint16_t[{$this->format->width} * {$this->format->height} * 3]");
                \FFI::memcpy($p, $bytes, $size);
            }
            if ($this->format->layout === Layout::Yuv) {
                $this->writeYuv($patch, $p);
            } else {
                $this->writeRgb($patch, $p);
            }
        }

        return $p === null ? $this->bytes : \FFI::string($p, $size);
    }

    private function samples(): \FFI\CData
    {
        if ($this->samples === null) {
            $this->samples = Memory::of("uint16_t[{$this->format->width} * {$this->format->height} * 3]");
            $bytes = $this->bytes;
            \FFI::memcpy($this->samples, $bytes, $this->format->bytes());
        }

        return $this->samples;
    }

    private function readYuv(Planes $planes): void
    {
        $p = $this->samples();
        [$kr, $kb] = $this->format->matrix->weights();
        $black = $this->format->black();
        $ys = 1.0 / $this->format->lumaSpan();
        $cs = 1.0 / $this->format->chromaSpan();
        $rv = 2 * (1 - $kr) * $cs;
        $bu = 2 * (1 - $kb) * $cs;
        $gv = 2 * (1 - $kr) * $kr / (1 - $kr - $kb) * $cs;
        $gu = 2 * (1 - $kb) * $kb / (1 - $kr - $kb) * $cs;
        self::yuvToRgb(
            $p,
            $planes->rect,
            $this->format->rect(),
            $black,
            $ys,
            $rv,
            $gu,
            $gv,
            $bu,
            $planes->r,
            $planes->g,
            $planes->b,
        );
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    private static function yuvToRgb(
        \FFI\CData $p,
        Rect $rect,
        Rect $frame,
        int $black,
        float $ys,
        float $rv,
        float $gu,
        float $gv,
        float $bu,
        array &$r,
        array &$g,
        array &$b,
    ): void {
        $plane = $frame->count();
        foreach ($rect->rowsIn($frame) as $i => $k) {
            for ($end = $k + $rect->width; $k < $end; ++$k) {
                $l = ($p[$k] - $black) * $ys;
                $u = $p[$k + $plane] - 32768;
                $v = $p[$k + 2 * $plane] - 32768;
                $r[$i] = $l + $rv * $v;
                $g[$i] = $l - $gu * $u - $gv * $v;
                $b[$i] = $l + $bu * $u;
                ++$i;
            }
        }
    }

    private function readRgb(Planes $planes): void
    {
        $p = $this->samples();
        $frame = $this->format->rect();
        $plane = $frame->count();
        $black = $this->format->black();
        $scale = 1.0 / $this->format->lumaSpan();
        foreach ($planes->rect->rowsIn($frame) as $i => $k) {
            for ($end = $k + $planes->rect->width; $k < $end; ++$k) {
                $planes->g[$i] = ($p[$k] - $black) * $scale;
                $planes->b[$i] = ($p[$k + $plane] - $black) * $scale;
                $planes->r[$i] = ($p[$k + 2 * $plane] - $black) * $scale;
                ++$i;
            }
        }
    }

    private function writeYuv(Planes $planes, \FFI\CData $p): void
    {
        [$kr, $kb] = $this->format->matrix->weights();
        $kg = 1.0 - $kr - $kb;
        self::rgbToYuv(
            $planes->r,
            $planes->g,
            $planes->b,
            $planes->rect,
            $p,
            $this->format->rect(),
            $kr,
            $kg,
            $kb,
            $this->format->lumaSpan(),
            $this->format->black() + 0.5,
            $this->format->chromaSpan() / (2 * (1 - $kb)),
            $this->format->chromaSpan() / (2 * (1 - $kr)),
        );
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    private static function rgbToYuv(
        array $r,
        array $g,
        array $b,
        Rect $rect,
        \FFI\CData $p,
        Rect $frame,
        float $kr,
        float $kg,
        float $kb,
        int $span,
        float $black,
        float $us,
        float $vs,
    ): void {
        $plane = $frame->count();
        foreach ($rect->rowsIn($frame) as $i => $k) {
            for ($end = $k + $rect->width; $k < $end; ++$k) {
                $red = $r[$i];
                $blue = $b[$i];
                $l = $kr * $red + $kg * $g[$i] + $kb * $blue;
                $c = $l * $span + $black;
                $p[$k] = $c >= 0.0 && $c < 65536.0 ? (int) $c : self::clipped($c);
                $c = ($blue - $l) * $us + 32768.5;
                $p[$k + $plane] = $c >= 0.0 && $c < 65536.0 ? (int) $c : self::clipped($c);
                $c = ($red - $l) * $vs + 32768.5;
                $p[$k + 2 * $plane] = $c >= 0.0 && $c < 65536.0 ? (int) $c : self::clipped($c);
                ++$i;
            }
        }
    }

    private function writeRgb(Planes $planes, \FFI\CData $p): void
    {
        $frame = $this->format->rect();
        $plane = $frame->count();
        $black = $this->format->black() + 0.5;
        $span = $this->format->lumaSpan();
        foreach ($planes->rect->rowsIn($frame) as $i => $k) {
            for ($end = $k + $planes->rect->width; $k < $end; ++$k) {
                $c = $planes->g[$i] * $span + $black;
                $p[$k] = $c >= 0.0 && $c < 65536.0 ? (int) $c : self::clipped($c);
                $c = $planes->b[$i] * $span + $black;
                $p[$k + $plane] = $c >= 0.0 && $c < 65536.0 ? (int) $c : self::clipped($c);
                $c = $planes->r[$i] * $span + $black;
                $p[$k + 2 * $plane] = $c >= 0.0 && $c < 65536.0 ? (int) $c : self::clipped($c);
                ++$i;
            }
        }
    }

    /**
     * A code value out of range. Clipped before it becomes a whole number: a boundless one would end as 0, and where neither
     * is true, as of the colour of boundless light, it is grey.
     */
    private static function clipped(float $c): int
    {
        return $c >= 65536.0 ? 65535 : ($c < 0.0 ? 0 : 32768);
    }
}
