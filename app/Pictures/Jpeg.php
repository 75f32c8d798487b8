<?php

declare(strict_types=1);

namespace App\Pictures;

/** Finished pictures for the browser: JPEG at high quality, without chroma subsampling (GD leaves it out from 90 on). */
final class Jpeg
{
    private const QUALITY = 92;

    /** @param string $bgrx four bytes a pixel, from the top left on */
    public static function encode(string $bgrx, int $width, int $height): string
    {
        $image = imagecreatefromstring(self::bmp($bgrx, $width, $height));
        if ($image === false) {
            throw new \RuntimeException('The picture could not be encoded.');
        }
        ob_start();
        imagejpeg($image, null, self::QUALITY);

        return (string) ob_get_clean();
    }

    /** A BMP header is the quickest way to hand pixels to GD. */
    private static function bmp(string $bgrx, int $width, int $height): string
    {
        $size = strlen($bgrx);

        return 'BM' . pack('VvvV', 54 + $size, 0, 0, 54) . pack('VVVvvVVVVVV', 40, $width, 0x100000000 - $height, 1, 32, 0, $size, 2835, 2835, 0, 0) . $bgrx;
    }
}
