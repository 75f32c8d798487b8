<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Recipe\PathPoint;

/** A face as it is seen on a frame: its landmarks, and what the picture shows where they say. */
final readonly class Face
{
    /** Where skin is looked at: shares of the way from the middle of the face to its border, and of the face's height above the brows. */
    private const TOWARDS = [0.4, 0.55, 0.7, 0.85];
    private const ABOVE = [0.12, 0.2];
    /** Irises as large as a face, in shares of its width. */
    private const LARGE = [0.18, 0.24, 0.32];

    /** @param array{Eye, Eye} $eyes the person's left, right */
    private function __construct(
        public Landmarks $marks,
        public array $eyes,
        public Mouth $mouth,
        /** Share of the face that looks like one skin. */
        public float $oneSkin,
        private ?Skin $skin,
        private int $height,
    ) {}

    public static function seen(FrameSource $source, Landmarks $marks, int $frame): self
    {
        $height = $source->frame()->height;
        $toPixels = Matrix::of([$height, 0, 0, 0, $height, 0, 0, 0, 1]);
        $scaled = static fn(PathPoint $p): PathPoint => $p->moved($toPixels);
        $outer = array_map($scaled, Smooth::path($marks->outerLips(), [0, 6]));
        $inner = $marks->innerLips();
        $high = hypot($inner[6][0] - $inner[2][0], $inner[6][1] - $inner[2][1]);
        $gap = array_map($scaled, Smooth::path($inner, [0, 4]));
        $mouth = Mouth::seen($source, $frame, $outer, $gap, $high * $height, $marks->width() * $height, $marks->mesh !== null);
        $places = self::places($marks, $height);
        $skin = Skin::at($source, $frame, $places);

        $eyes = Eyes::of($source, $frame, $marks);

        $eyes = $marks->mesh?->isSure() ? MeshEyes::said($source, $frame, $marks->mesh, $eyes) : $eyes;

        return new self($marks, $eyes, $mouth, $skin?->share($places) ?? 0.0, $skin, $height);
    }

    /** Whether what was taken for a face is one large eye: an iris where the nose should be. */
    public function isEye(FrameSource $source, int $frame): bool
    {
        $width = $this->marks->width() * $this->height;
        [$x, $y] = Landmarks::middle([$this->marks->eyes(), Landmarks::middle($this->marks->outerLips())]);
        foreach (self::LARGE as $size) {
            $iris = IrisCircle::near($source, $frame, $x * $this->height, $y * $this->height, $size * $width, 0.15 * $width);
            if ($iris !== null && Eyes::isOne($source, $frame, $iris, deg2rad($this->marks->tilt()))) {
                return true;
            }
        }

        return false;
    }

    /** @return list<Eye> those that are sure */
    public function openEyes(): array
    {
        return array_values(array_filter($this->eyes, static fn(Eye $eye): bool => $eye->sure()));
    }

    /**
     * Whether one of its sure eyes is one of these.
     *
     * @param list<Eye> $eyes
     */
    public function hasEyeOf(array $eyes): bool
    {
        foreach ($this->eyes as $own) {
            foreach ($eyes as $other) {
                [$a, $b] = [$own->iris, $other->iris];
                if ($own->sure() && $a !== null && $b !== null && hypot($a->x - $b->x, $a->y - $b->y) < $b->radius) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * Share of places that look like its skin.
     *
     * @param non-empty-list<array{float, float}> $places picture heights
     */
    public function skinAt(array $places): float
    {
        return $this->skin?->share(array_map(fn(array $p): array => [$p[0] * $this->height, $p[1] * $this->height], $places)) ?? 0.0;
    }

    /** @return non-empty-list<array{float, float}> places all over the face, without eyes, brows and mouth, pixels */
    private static function places(Landmarks $marks, int $height): array
    {
        $lips = $marks->outerLips();
        $mouth = Landmarks::middle($lips);
        $wide = hypot($lips[6][0] - $lips[0][0], $lips[6][1] - $lips[0][1]);
        [$cx, $cy] = Landmarks::middle([$marks->eyes(), $mouth]);
        $places = [];
        foreach ($marks->jaw() as [$x, $y]) {
            foreach (self::TOWARDS as $share) {
                $p = [$cx + $share * ($x - $cx), $cy + $share * ($y - $cy)];
                $near = hypot($p[0] - $mouth[0], 1.6 * ($p[1] - $mouth[1])) < 0.65 * $wide;
                foreach ([true, false] as $left) {
                    $lids = $marks->lids($left);
                    $eye = Landmarks::middle($lids);
                    $reach = 0.8 * hypot($lids[3][0] - $lids[0][0], $lids[3][1] - $lids[0][1]);
                    $near = $near || hypot($p[0] - $eye[0], $p[1] - $eye[1]) < $reach;
                }
                if (!$near) {
                    $places[] = [$p[0] * $height, $p[1] * $height];
                }
            }
        }
        [$bx, $by] = $marks->brows();
        [$chinX, $chinY] = $marks->chin();
        foreach ([-0.3, -0.15, 0.0, 0.15, 0.3] as $aside) {
            foreach (self::ABOVE as $up) {
                $places[] = [($bx + $up * ($bx - $chinX) + $aside * $marks->width()) * $height, ($by + $up * ($by - $chinY)) * $height];
            }
        }

        return $places;
    }
}
