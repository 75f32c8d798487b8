<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use Cossel\Core\Outline\Contour;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;

/**
 * How far the proposed parts of a person are from the truth of a frame: outlines as the mean distance of places along them to the
 * label's border, irises by their centre; in percent of the face's width (1.55 x the distance of the outer eye corners), radii
 * along the eye, of what a turned eye shows, in percent of themselves.
 */
final readonly class PersonAccuracy
{
    private const FACE = [LabelPictures::SKIN, LabelPictures::LEFT_IRIS, LabelPictures::RIGHT_IRIS, LabelPictures::PUPIL, LabelPictures::SCLERA, LabelPictures::LIPS, LabelPictures::TEETH, LabelPictures::CAVITY, LabelPictures::BLEMISH];
    private const EYE = [LabelPictures::LEFT_IRIS, LabelPictures::RIGHT_IRIS, LabelPictures::PUPIL, LabelPictures::SCLERA];
    private const MOUTH = [LabelPictures::LIPS, LabelPictures::TEETH, LabelPictures::CAVITY];
    private const OPENING = [LabelPictures::TEETH, LabelPictures::CAVITY];
    /** Openness of an eye from which its lids can be outlined. */
    private const OPEN = 0.3;
    /** Pixels of a part, in shares of the squared width of the face, from which it can be seen. */
    private const SEEN = 0.0008;
    private const PER_PIECE = 8;

    /**
     * @param list<int>            $labels of the frame, row by row
     * @param array<string, mixed> $truth  of the person on it
     */
    public function __construct(private array $labels, private int $width, private int $height, private array $truth) {}

    /** The width of the face, pixels. */
    public function faceWidth(): float
    {
        $t = $this->truth;

        return 1.55 * hypot($t['eye_l']['outer']['x'] - $t['eye_r']['outer']['x'], $t['eye_l']['outer']['y'] - $t['eye_r']['outer']['y']);
    }

    /** Whether a part is there to be found: inside the frame, not hidden, open. */
    public function there(string $part, bool $left = false): bool
    {
        $eye = $this->truth[$left ? 'eye_l' : 'eye_r'];
        $enough = self::SEEN * $this->faceWidth() ** 2;

        return match ($part) {
            'face' => $this->truth['nose_tip']['vis'] && $this->truth['chin']['vis'] && ($this->truth['eye_l']['pupil']['vis'] || $this->truth['eye_r']['pupil']['vis']),
            'lids', 'iris' => $eye['open'] >= self::OPEN && $eye['inner']['vis'] && $eye['outer']['vis'] && $eye['pupil']['vis'],
            'lips' => $this->truth['mouth_corner_l']['vis'] && $this->truth['mouth_corner_r']['vis'],
            'teeth' => count(array_keys($this->labels, LabelPictures::TEETH, true)) > $enough,
            default => false,
        };
    }

    /** @return float|null percent of the face's width; null where the truth has no such border */
    public function outline(Area $area, bool $left = false): ?float
    {
        $shape = $area->outline->shapes[0];
        if (!$shape instanceof Path) {
            return null;
        }
        $border = match ($area->part) {
            'face' => $this->border(self::FACE, null),
            'lids' => $this->border(self::EYE, $this->eyeBox($left)),
            'lips' => $this->border(self::MOUTH, null),
            'teeth' => $this->border(self::OPENING, null),
            default => [],
        };
        if ($border === []) {
            return null;
        }
        $sum = 0.0;
        $count = 0;
        foreach ($shape->points as $i => $p) {
            for ($k = 0; $k < self::PER_PIECE; ++$k) {
                [$x, $y] = Contour::on($p, $shape->points[($i + 1) % count($shape->points)], $k / self::PER_PIECE);
                $least = INF;
                foreach ($border as [$bx, $by]) {
                    $least = min($least, ($bx - $x * $this->height) ** 2 + ($by - $y * $this->height) ** 2);
                }
                $sum += sqrt($least);
                ++$count;
            }
        }

        return 100 * $sum / $count / $this->faceWidth();
    }

    /**
     * How far places are outside the opening of the mouth, or of the mouth where it is closed, mean, pixels; 0 for those inside.
     *
     * @param list<array{float, float}> $places pixels
     */
    public function outside(array $places): float
    {
        $within = array_intersect(self::OPENING, $this->labels) === [] ? self::MOUTH : self::OPENING;
        $border = $this->border($within, null);
        $in = array_fill_keys($within, true);
        $sum = 0.0;
        foreach ($places as [$x, $y]) {
            $label = $this->labels[max(0, min($this->height - 1, (int) $y)) * $this->width + max(0, min($this->width - 1, (int) $x))];
            if (!isset($in[$label])) {
                $sum += sqrt(min(array_map(static fn(array $b): float => ($b[0] - $x) ** 2 + ($b[1] - $y) ** 2, $border)));
            }
        }

        return $sum / max(1, count($places));
    }

    /** @return array{float, float} miss of the centre in percent of the face's width, of the radius in percent of itself */
    public function iris(Ellipse $iris, bool $left): array
    {
        $eye = $this->truth[$left ? 'eye_l' : 'eye_r'];

        return [
            100 * hypot($iris->centre[0] * $this->height - $eye['pupil']['x'], $iris->centre[1] * $this->height - $eye['pupil']['y']) / $this->faceWidth(),
            100 * abs($iris->radii[0] * $this->height / $eye['iris_r_minor'] - 1),
        ];
    }

    /** @return array{float, float, float, float} round an eye, left, top, right, bottom */
    private function eyeBox(bool $left): array
    {
        $eye = $this->truth[$left ? 'eye_l' : 'eye_r'];
        $x = ($eye['inner']['x'] + $eye['outer']['x']) / 2;
        $y = ($eye['inner']['y'] + $eye['outer']['y']) / 2;
        $reach = 0.8 * hypot($eye['inner']['x'] - $eye['outer']['x'], $eye['inner']['y'] - $eye['outer']['y']);

        return [$x - $reach, $y - $reach, $x + $reach, $y + $reach];
    }

    /**
     * @param list<int>                                       $labels
     * @param array{float, float, float, float}|null $box
     *
     * @return list<array{float, float}> places between pixels inside and outside
     */
    private function border(array $labels, ?array $box): array
    {
        [$left, $top, $right, $bottom] = array_map('intval', $box ?? [1, 1, $this->width, $this->height]);
        $in = array_fill_keys($labels, true);
        $border = [];
        for ($y = max(1, $top); $y < min($this->height, $bottom); ++$y) {
            for ($x = max(1, $left), $i = $y * $this->width + $x; $x < min($this->width, $right); ++$x, ++$i) {
                $inside = isset($in[$this->labels[$i]]);
                if ($inside !== isset($in[$this->labels[$i - 1]])) {
                    $border[] = [(float) $x, $y + 0.5];
                }
                if ($inside !== isset($in[$this->labels[$i - $this->width]])) {
                    $border[] = [$x + 0.5, (float) $y];
                }
            }
        }

        return $border;
    }
}
