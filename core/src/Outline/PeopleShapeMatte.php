<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Guided;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\People;

/**
 * The people of one frame, in pixels of that frame: what a net has told of them, brought to the picture's own edges. Kernel class.
 *
 * Feathered or grown, it is a smooth function of the distance d to its edge as other shapes are. That is read from the matte after a
 * Gaussian of a spread s, which across a straight edge is the normal distribution's Φ(-d / s).
 */
final class PeopleShapeMatte implements ShapeMatte
{
    /** Nanoseconds a pixel; measured. */
    private const PRICE = 800.0;
    /** What the net tells, of 255, up to which nobody is there, and from which somebody is: it is sure too seldom. */
    private const NOBODY = 26;
    private const SOMEBODY = 178;
    /** Spread it is blurred by, of how far from its edge something is wanted: from there on little of the step is left to read. */
    private const SPREAD = 0.6;
    private const LEVELS = 1024;

    private ?Guided $guided = null;
    private ?Rect $bounds = null;

    /**
     * @param People           $shape   with its values on the frame
     * @param PeopleMatte|null $people  null where nobody is known of
     * @param Frame|null       $picture untreated; null where only bounds are asked for
     */
    public function __construct(
        private readonly People $shape,
        private readonly ?PeopleMatte $people,
        private readonly Rect $frame,
        private readonly ?Frame $picture,
    ) {}

    public function bounds(): Rect
    {
        return $this->bounds ??= $this->extent();
    }

    private function extent(): Rect
    {
        $extent = $this->people?->extent(self::NOBODY);
        if ($this->people === null || $extent === null) {
            return Rect::none();
        }
        $across = $this->frame->width / $this->people->across;
        $down = $this->frame->height / $this->people->down;
        $more = Guided::reach($this->frame) + max(0.0, ($this->shape->grow + $this->shape->featherOut) * $this->frame->height);
        [$left, $top, $right, $bottom] = $extent;

        return Rect::around($left * $across - $more, $top * $down - $more, $right * $across + $more, $bottom * $down + $more)
            ->intersect($this->frame);
    }

    public function price(): float
    {
        return self::PRICE;
    }

    public function matte(Rect $rect): Grey
    {
        $inside = $rect->intersect($this->bounds());
        if ($inside->isEmpty()) {
            return Grey::filled($rect, 0.0);
        }
        $levels = $this->levels();
        $spread = $levels === null ? 0.0 : $this->spread();
        $wide = $inside->grow(Gaussian::reach($spread))->intersect($this->frame);
        $grey = $this->guided()->matte($this->planes($wide));
        if ($levels !== null) {
            $grey = Gaussian::blur($grey, $spread);
            self::read($grey->v, $levels);
        }
        self::dim($grey->v, $this->shape->opacity);

        return $grey->window($inside)->window($rect);
    }

    private function guided(): Guided
    {
        return $this->guided ??= new Guided($this->frame, $this->planes(...), fn(int $w, int $h): array => self::laid(
            $this->people->cells,
            $this->people->across,
            $this->people->down,
            $w,
            $h,
        ));
    }

    private function planes(Rect $rect): Planes
    {
        return $this->picture?->window($rect) ?? throw new \LogicException('People are seen in a picture only.');
    }

    /** Spread of the blur that distances are read from, pixels. */
    private function spread(): float
    {
        $far = abs($this->shape->grow) + max($this->shape->featherIn, $this->shape->featherOut);

        return max(1.0, self::SPREAD * $far * $this->frame->height);
    }

    /** @return list<float>|null what the blurred matte's levels, 0 to 1, come to; null where it stays as it is */
    private function levels(): ?array
    {
        $shape = $this->shape;
        if ($shape->grow === 0.0 && $shape->featherIn === 0.0 && $shape->featherOut === 0.0) {
            return null;
        }
        $rows = $this->frame->height;
        [$in, $out] = [$shape->featherIn * $rows, $shape->featherOut * $rows];
        $more = max(0.0, (1.0 - $in - $out) / 2);
        [$in, $out] = [$in + $more, $out + $more];
        $spread = $this->spread();
        $levels = [];
        // From far outside inwards, the distance at which Φ comes to each level.
        for ($k = 0, $d = 4.0; $k <= self::LEVELS; ++$k) {
            while ($d > -4.0 && self::normal(-$d) < $k / self::LEVELS) {
                $d -= 0.004;
            }
            $t = max(0.0, min(1.0, ($d * $spread - $shape->grow * $rows + $in) / ($in + $out)));
            $levels[] = 1.0 - $t * $t * (3.0 - 2.0 * $t);
        }

        return $levels;
    }

    /** The normal distribution (M. Abramowitz and I. Stegun, Handbook of Mathematical Functions, 26.2.17: right to 8e-8). */
    private static function normal(float $x): float
    {
        $t = 1.0 / (1.0 + 0.2316419 * abs($x));
        $sum = $t * (0.319381530 + $t * (-0.356563782 + $t * (1.781477937 + $t * (-1.821255978 + $t * 1.330274429))));
        $tail = exp(-$x * $x / 2) / sqrt(2 * M_PI) * $sum;

        return $x < 0.0 ? $tail : 1.0 - $tail;
    }

    /**
     * @param list<float> $v
     * @param list<float> $levels
     */
    private static function read(array &$v, array $levels): void
    {
        for ($i = 0, $n = count($v); $i < $n; ++$i) {
            $x = $v[$i] * self::LEVELS;
            $k = (int) $x;
            $v[$i] = $k >= self::LEVELS ? $levels[self::LEVELS] : $levels[$k] + ($x - $k) * ($levels[$k + 1] - $levels[$k]);
        }
    }

    /** @param list<float> $v */
    private static function dim(array &$v, float $opacity): void
    {
        if ($opacity !== 1.0) {
            foreach ($v as $i => $x) {
                $v[$i] = $x * $opacity;
            }
        }
    }

    /**
     * Cells read at the middles of as many columns and rows, bilinear.
     *
     * @param list<int> $cells
     *
     * @return list<float> 0 to 1
     */
    private static function laid(array $cells, int $across, int $down, int $w, int $h): array
    {
        $sure = [];
        for ($k = 0; $k <= 255; ++$k) {
            $t = max(0.0, min(1.0, ($k - self::NOBODY) / (self::SOMEBODY - self::NOBODY)));
            $sure[] = $t * $t * (3.0 - 2.0 * $t);
        }
        $out = [];
        for ($y = 0; $y < $h; ++$y) {
            $v = max(0.0, min($down - 1.0, ($y + 0.5) / $h * $down - 0.5));
            $j = min((int) $v, max(0, $down - 2));
            $below = $down > 1 ? $across : 0;
            for ($x = 0; $x < $w; ++$x) {
                $u = max(0.0, min($across - 1.0, ($x + 0.5) / $w * $across - 0.5));
                $i = min((int) $u, max(0, $across - 2));
                $k = $j * $across + $i;
                $next = $across > 1 ? 1 : 0;
                [$a, $b] = [$sure[$cells[$k]], $sure[$cells[$k + $next]]];
                [$c, $d] = [$sure[$cells[$k + $below]], $sure[$cells[$k + $below + $next]]];
                $top = $a + ($u - $i) * ($b - $a);
                $out[] = $top + ($v - $j) * ($c + ($u - $i) * ($d - $c) - $top);
            }
        }

        return $out;
    }
}
