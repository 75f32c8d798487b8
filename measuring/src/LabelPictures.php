<?php

declare(strict_types=1);

namespace Cossel\Measuring;

/** The label pictures of a demo shot: what each pixel shows, as the picture was drawn. */
final readonly class LabelPictures
{
    public const SKIN = 1;
    public const LEFT_IRIS = 2;
    public const RIGHT_IRIS = 3;
    public const PUPIL = 4;
    public const SCLERA = 5;
    public const LIPS = 6;
    public const TEETH = 7;
    public const OTHER = 11;
    public const CAVITY = 12;
    public const BLEMISH = 13;

    /** @param string $zip one grey picture a frame, value = label x 10, and 5 more for a second person */
    public function __construct(private string $zip) {}

    /**
     * @param int|null $person of several people (0 or 1): what belongs to another one counts as in front
     *
     * @return list<int> the label of each pixel, row by row
     */
    public function of(int $frame, ?int $person = null): array
    {
        $image = imagecreatefromstring((string) file_get_contents(sprintf('zip://%s#%04d.png', $this->zip, $frame)));
        if ($image === false) {
            throw new \RuntimeException("There is no label picture of frame {$frame}.");
        }
        $labels = [];
        for ($y = 0, $height = imagesy($image), $width = imagesx($image); $y < $height; ++$y) {
            for ($x = 0; $x < $width; ++$x) {
                $value = imagecolorat($image, $x, $y) & 0xFF;
                $labels[] = $person !== null && $value > 0 && ($value % 10 === 5) !== ($person === 1) ? self::OTHER : intdiv($value, 10);
            }
        }

        return $labels;
    }
}
