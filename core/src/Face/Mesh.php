<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

use Cossel\Core\Geometry\Hull;

/**
 * A mesh of 478 points that a net has laid over a face on a frame (Y. Kartynnik et al., "Real-time Facial Surface Geometry from Monocular
 * Video on Mobile GPUs", 2019, with the points of two irises), in picture heights. Depths grow away from the camera. Left and right are
 * the person's own.
 */
final readonly class Mesh
{
    public const POINTS = 478;
    /** Bytes of one that is kept. */
    public const BYTES = 4 + 16 + 2 * 3 * self::POINTS;

    /** The score from which it lies on a face, whatever else is seen of that. */
    private const SURE = 14.0;
    public const CHIN = 152;
    public const BROW = 10;
    /** Forehead, temples, corners of the eyes, bridge and root of the nose. */
    private const FIRM = [10, 234, 454, 33, 133, 362, 263, 168, 6];
    /** Radius of an iris, in lengths of the eye: that of the mesh itself is too small where lids or a turn hide some of it. */
    private const IRIS = 0.24;
    private const TEMPLES = [234, 454];
    private const IRISES = [468, 473];
    /** Of each eye: its corners, and pairs of points of the upper and the lower lid. */
    private const CORNERS = [[33, 133], [362, 263]];
    private const LIDS = [[[159, 145], [160, 144], [158, 153]], [[386, 374], [385, 380], [387, 373]]];
    private const LIPS = [[13, 14], [61, 291]];
    private const STEPS = 65535;

    /** @param list<float> $places x, y and depth of one point after the other */
    private function __construct(public float $score, private array $places, public ?Descriptor $descriptor = null) {}

    /**
     * @param float       $score  how much it is a face: those of people have over 20, what is none has under 8
     * @param list<float> $places x, y and depth of one point after the other, picture heights
     *
     * @throws \InvalidArgumentException unless there are 478
     */
    public static function of(float $score, array $places): self
    {
        if (count($places) !== 3 * self::POINTS) {
            throw new \InvalidArgumentException('A mesh has ' . self::POINTS . ' points, ' . count($places) / 3 . ' given.');
        }

        return new self($score, $places);
    }

    /** @param Descriptor $descriptor of the face it lies on; not every mesh has one */
    public function described(Descriptor $descriptor): self
    {
        return new self($this->score, $this->places, $descriptor);
    }

    public function isSure(): bool
    {
        return $this->score >= self::SURE;
    }

    /** @return array{float, float} */
    public function at(int $point): array
    {
        return [$this->places[3 * $point], $this->places[3 * $point + 1]];
    }

    /** @return non-empty-list<array{float, float}> */
    public function along(Ring $ring): array
    {
        return array_map($this->at(...), $ring->points());
    }

    /** @return array{float, float} the middle between both temples and the chin */
    public function middle(): array
    {
        [$ax, $ay] = $this->at(self::TEMPLES[0]);
        [$bx, $by] = $this->at(self::TEMPLES[1]);
        [$cx, $cy] = $this->at(self::CHIN);

        return [($ax + $bx) / 4 + $cx / 2, ($ay + $by) / 4 + $cy / 2];
    }

    /** How large the face is, however it is turned: the larger of how far the temples, and brow and chin, are apart in space. */
    public function size(): float
    {
        return max($this->apart(...self::TEMPLES), $this->apart(self::BROW, self::CHIN));
    }

    /** How large what does not move in the face is, however it is turned: the spread of its points in space. */
    public function firm(): float
    {
        $sum = 0.0;
        foreach (self::FIRM as $k => $a) {
            foreach (array_slice(self::FIRM, $k + 1) as $b) {
                $sum += $this->apart($a, $b) ** 2;
            }
        }

        return sqrt($sum) / count(self::FIRM);
    }

    /** @return array{float, float, float} middle of an iris, and its radius as it usually is in an eye of this length */
    public function iris(bool $left): array
    {
        return [...$this->at(self::IRISES[$left ? 1 : 0]), self::IRIS * $this->apart(...self::CORNERS[$left ? 1 : 0])];
    }

    /** @return array{array{float, float}, array{float, float}} the corners of an eye, that on the left of the picture first */
    public function corners(bool $left): array
    {
        [$from, $to] = self::CORNERS[$left ? 1 : 0];

        return [$this->at($from), $this->at($to)];
    }

    /**
     * The silhouette of the face as it is seen: the hull of all its points, in places equally far apart, from the top on.
     *
     * @return list<array{float, float}>
     */
    public function outline(int $count): array
    {
        $hull = Hull::of(array_map($this->at(...), range(0, self::POINTS - 1)));
        [$x, $y] = $this->at(self::BROW);
        $top = 0;
        foreach ($hull as $i => $p) {
            $top = hypot($p[0] - $x, $p[1] - $y) < hypot($hull[$top][0] - $x, $hull[$top][1] - $y) ? $i : $top;
        }
        $hull = [...array_slice($hull, $top), ...array_slice($hull, 0, $top + 1)];
        $along = [0.0];
        for ($i = 1; $i < count($hull); ++$i) {
            $along[] = $along[$i - 1] + hypot($hull[$i][0] - $hull[$i - 1][0], $hull[$i][1] - $hull[$i - 1][1]);
        }
        $places = [];
        for ($k = 0, $i = 1; $k < $count; ++$k) {
            $at = end($along) * $k / $count;
            while ($along[$i] < $at) {
                ++$i;
            }
            $t = ($at - $along[$i - 1]) / max(1e-9, $along[$i] - $along[$i - 1]);
            [[$ax, $ay], [$bx, $by]] = [$hull[$i - 1], $hull[$i]];
            $places[] = [$ax + $t * ($bx - $ax), $ay + $t * ($by - $ay)];
        }

        return $places;
    }

    /** How far the lids of an eye are apart, in lengths of the eye. */
    public function lidsApart(bool $left): float
    {
        $gap = 0.0;
        foreach (self::LIDS[$left ? 1 : 0] as [$upper, $lower]) {
            $gap += $this->apart($upper, $lower) / 3;
        }

        return $gap / max(1e-6, $this->apart(...self::CORNERS[$left ? 1 : 0]));
    }

    /** How far the lips are apart, in breadths of the mouth. */
    public function lipsApart(): float
    {
        return $this->apart(...self::LIPS[0]) / max(1e-6, $this->apart(...self::LIPS[1]));
    }

    /** As it is kept, without what it looks like: the score, the corner and the size of what it fills, then each place within that. */
    public function bytes(): string
    {
        $x = $y = $z = [];
        foreach ($this->places as $k => $v) {
            match ($k % 3) {
                0 => $x[] = $v,
                1 => $y[] = $v,
                default => $z[] = $v,
            };
        }
        [$left, $top, $near] = [(float) min($x ?: [0.0]), (float) min($y ?: [0.0]), (float) min($z ?: [0.0])];
        $size = max(1e-6, max($x ?: [0.0]) - $left, max($y ?: [0.0]) - $top, max($z ?: [0.0]) - $near);
        $from = [$left, $top, $near];
        $whole = [];
        foreach ($this->places as $k => $v) {
            $whole[] = (int) round(($v - $from[$k % 3]) / $size * self::STEPS);
        }

        return pack('g5', $this->score, $left, $top, $near, $size) . pack('v*', ...$whole);
    }

    /** @throws \InvalidArgumentException unless it has that length */
    public static function read(string $bytes): self
    {
        if (strlen($bytes) !== self::BYTES) {
            throw new \InvalidArgumentException('A kept mesh has ' . self::BYTES . ' bytes, ' . strlen($bytes) . ' given.');
        }
        /** @var array{float, float, float, float, float} $head */
        $head = array_values((array) unpack('g5', $bytes));
        [$score, $left, $top, $near, $size] = $head;
        $from = [$left, $top, $near];
        $places = [];
        $k = 0;
        foreach ((array) unpack('v*', $bytes, 20) as $v) {
            $places[] = $from[$k++ % 3] + $v * $size / self::STEPS;
        }

        return self::of($score, $places);
    }

    private function apart(int $a, int $b): float
    {
        return sqrt(
            ($this->places[3 * $a] - $this->places[3 * $b]) ** 2
            + ($this->places[3 * $a + 1] - $this->places[3 * $b + 1]) ** 2
            + ($this->places[3 * $a + 2] - $this->places[3 * $b + 2]) ** 2,
        );
    }
}
