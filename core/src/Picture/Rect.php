<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * A rectangle of whole pixels: left and top inclusive, right and bottom exclusive. May be empty, never negative in size.
 */
final readonly class Rect
{
    private function __construct(
        public int $x,
        public int $y,
        public int $width,
        public int $height,
    ) {}

    public static function of(int $x, int $y, int $width, int $height): self
    {
        return new self($x, $y, max(0, $width), max(0, $height));
    }

    public static function edges(int $left, int $top, int $right, int $bottom): self
    {
        return self::of($left, $top, $right - $left, $bottom - $top);
    }

    /** The smallest whole-pixel rectangle that holds these real-valued edges. */
    public static function around(float $left, float $top, float $right, float $bottom): self
    {
        $limit = 1 << 24;
        $whole = static fn(float $v): int => (int) max(-$limit, min($limit, $v));

        return self::edges($whole(floor($left)), $whole(floor($top)), $whole(ceil($right)), $whole(ceil($bottom)));
    }

    public static function none(): self
    {
        return new self(0, 0, 0, 0);
    }

    public function right(): int
    {
        return $this->x + $this->width;
    }

    public function bottom(): int
    {
        return $this->y + $this->height;
    }

    public function count(): int
    {
        return $this->width * $this->height;
    }

    public function isEmpty(): bool
    {
        return $this->width === 0 || $this->height === 0;
    }

    public function equals(self $other): bool
    {
        return $this->x === $other->x && $this->y === $other->y && $this->width === $other->width && $this->height === $other->height;
    }

    public function contains(self $other): bool
    {
        return $other->x >= $this->x && $other->y >= $this->y && $other->right() <= $this->right() && $other->bottom() <= $this->bottom();
    }

    public function intersect(self $other): self
    {
        $cut = self::edges(
            max($this->x, $other->x),
            max($this->y, $other->y),
            min($this->right(), $other->right()),
            min($this->bottom(), $other->bottom()),
        );

        return $cut->isEmpty() ? self::none() : $cut;
    }

    /** The smallest rectangle that holds both; an empty one adds nothing. */
    public function union(self $other): self
    {
        if ($this->isEmpty()) {
            return $other;
        }
        if ($other->isEmpty()) {
            return $this;
        }

        return self::edges(
            min($this->x, $other->x),
            min($this->y, $other->y),
            max($this->right(), $other->right()),
            max($this->bottom(), $other->bottom()),
        );
    }

    /**
     * Its rows from top to bottom: where each begins in packed values of this rectangle, and where in packed values of
     * one round it.
     *
     * @return \Generator<int, int>
     */
    public function rowsIn(self $from): \Generator
    {
        $i = ($this->y - $from->y) * $from->width + $this->x - $from->x;
        for ($j = 0, $n = $this->count(); $j < $n; $j += $this->width) {
            yield $j => $i;
            $i += $from->width;
        }
    }

    public function moved(int $dx, int $dy): self
    {
        return new self($this->x + $dx, $this->y + $dy, $this->width, $this->height);
    }

    public function grow(int $pixels): self
    {
        return self::edges($this->x - $pixels, $this->y - $pixels, $this->right() + $pixels, $this->bottom() + $pixels);
    }

    /**
     * Merges overlapping rectangles until all are apart from each other.
     *
     * @param list<self> $rects
     *
     * @return list<self>
     */
    public static function apart(array $rects): array
    {
        $apart = [];
        foreach ($rects as $rect) {
            if ($rect->isEmpty()) {
                continue;
            }
            for ($i = 0; $i < count($apart); ++$i) {
                if (!$apart[$i]->intersect($rect)->isEmpty()) {
                    $rect = $rect->union($apart[$i]);
                    array_splice($apart, $i, 1);
                    $i = -1;
                }
            }
            $apart[] = $rect;
        }

        return $apart;
    }

    /** @return list<self> bands of at most $height rows that cover this rectangle from top to bottom */
    public function bands(int $height): array
    {
        $bands = [];
        for ($y = $this->y; $y < $this->bottom(); $y += $height) {
            $bands[] = self::of($this->x, $y, $this->width, min($height, $this->bottom() - $y));
        }

        return $bands;
    }
}
