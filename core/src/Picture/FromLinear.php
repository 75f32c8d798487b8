<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Frames of linear light brought into the stored form, by the transfer of that form. What is beyond its codes (R'G'B' of more than
 * about 1.09, with the transfer of sRGB 1.22 times white) is kept at their end, and told of. Kernel class.
 */
final class FromLinear
{
    private const BYTES = 4;

    /**
     * @param string      $floats green, blue and red, one after the other: 32-bit floats, little endian, 1 for reference white
     * @param FrameFormat $format that they are brought to
     *
     * @return array{Frame, int} the frame, and how many of its pixels were brighter than it can say
     *
     * @throws \LengthException when it is not one frame
     */
    public static function frame(string $floats, FrameFormat $format): array
    {
        $n = $format->width * $format->height;
        if (strlen($floats) !== 3 * self::BYTES * $n) {
            throw new \LengthException(sprintf('A frame of %d pixels takes %d bytes of floats, %d given.', $n, 12 * $n, strlen($floats)));
        }
        $memory = Memory::of('float[' . 3 * $n . ']');
        \FFI::memcpy($memory, $floats, strlen($floats));
        $planes = Planes::filled($format->rect(), 0.0, 0.0, 0.0);
        self::codes($memory, 0, $n, $format, $planes->g);
        self::codes($memory, $n, $n, $format, $planes->b);
        self::codes($memory, 2 * $n, $n, $format, $planes->r);
        $most = (65535 - $format->black()) / $format->lumaSpan();
        $beyond = 0;
        foreach ($planes->r as $i => $red) {
            $beyond += (int) ($red > $most || $planes->g[$i] > $most || $planes->b[$i] > $most);
        }
        $bytes = (new Frame($format, str_repeat("\0", $format->bytes())))->patched([$planes]);

        return [new Frame($format, $bytes), $beyond];
    }

    /** @param list<float> $out */
    private static function codes(\FFI\CData $memory, int $from, int $n, FrameFormat $format, array &$out): void
    {
        $transfer = $format->transfer;
        for ($i = 0; $i < $n; ++$i) {
            $l = $memory[$from + $i];
            $out[$i] = is_nan($l) ? 0.0 : $transfer->code($l);
        }
    }
}
