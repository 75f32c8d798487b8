<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Where a stored frame holds R'G'B' beyond two values. Most of a usual frame is told to hold none from the high bytes of its samples, by
 * matching patterns, which takes some 2 ns a sample where reading one takes 20: of some pixels in a row it is found between which
 * colour differences they all lie, and so which luma leaves no channel beyond. What is left is looked at pixel by pixel. Kernel class.
 */
final class Beyond
{
    /** Size of what is told as a whole. */
    private const COLUMNS = 128;
    private const ROWS = 16;
    /** Between what colour differences may lie, parts of their span; the first that holds is taken. */
    private const APART = [
        [-0.015, 0.015], [-0.04, 0.04], [-0.08, 0.015], [-0.015, 0.08], [-0.12, 0.015], [-0.015, 0.12], [-0.12, 0.12],
        [-0.2, 0.03], [-0.03, 0.2], [-0.3, 0.05], [-0.05, 0.3],
    ];

    /** @var list<string> patterns of colour differences that lie between those */
    private array $differences = [];

    /** @var array<int, string> patterns of luma, or of any channel of R'G'B', by what the colour differences lie between */
    private array $luma = [];

    private function __construct(private readonly Frame $frame, private readonly float $low, private readonly float $high)
    {
        $span = $frame->format->chromaSpan();
        foreach (self::APART as [$least, $most]) {
            $this->differences[] = self::between(32768 + $least * $span, 32768 + $most * $span);
        }
    }

    /** @return list<Rect> apart from each other, each some columns of a band of rows */
    public static function of(Frame $frame, float $low, float $high): array
    {
        $beyond = new self($frame, $low, $high);
        $rects = [];
        foreach ($frame->format->rect()->bands(self::ROWS) as $band) {
            $last = null;
            for ($x = 0; $x < $band->width; $x += self::COLUMNS) {
                $cell = Rect::of($x, $band->y, min(self::COLUMNS, $band->width - $x), $band->height);
                if ($beyond->isDoubtful($cell) && $beyond->holds($cell)) {
                    if ($last !== null && $rects[$last]->right() === $x) {
                        $rects[$last] = $rects[$last]->union($cell);
                    } else {
                        $last = count($rects);
                        $rects[] = $cell;
                    }
                }
            }
        }

        return $rects;
    }

    /** Whether its patterns leave it open. */
    private function isDoubtful(Rect $cell): bool
    {
        foreach ($cell->rowsIn($this->frame->format->rect()) as $at) {
            if (!$this->within($at, $cell->width)) {
                return true;
            }
        }

        return false;
    }

    /** Whether any of its pixels is. */
    private function holds(Rect $cell): bool
    {
        $planes = $this->frame->window($cell);

        return self::any($planes->r, $this->low, $this->high)
            || self::any($planes->g, $this->low, $this->high)
            || self::any($planes->b, $this->low, $this->high);
    }

    /** @param list<float> $v */
    private static function any(array $v, float $low, float $high): bool
    {
        foreach ($v as $x) {
            if ($x < $low || $x > $high) {
                return true;
            }
        }

        return false;
    }

    /** Whether no channel of some pixels in a row is beyond, for sure. */
    private function within(int $at, int $count): bool
    {
        if ($this->frame->format->layout === Layout::Rgb) {
            $codes = $this->luma[0] ??= $this->codes(0.0, 0.0);

            return $this->match($codes, 0, $at, $count) && $this->match($codes, 1, $at, $count) && $this->match($codes, 2, $at, $count);
        }
        $u = $this->apart(1, $at, $count);
        $v = $u === null ? null : $this->apart(2, $at, $count);
        if ($u === null || $v === null) {
            return false;
        }
        $luma = $this->luma[$u * count(self::APART) + $v] ??= $this->lumaBetween(self::APART[$u], self::APART[$v]);

        return $this->match($luma, 0, $at, $count);
    }

    /** The first of the bounds between which some colour differences in a row all lie. */
    private function apart(int $plane, int $at, int $count): ?int
    {
        foreach ($this->differences as $k => $pattern) {
            if ($this->match($pattern, $plane, $at, $count)) {
                return $k;
            }
        }

        return null;
    }

    private function match(string $pattern, int $plane, int $at, int $count): bool
    {
        $start = $plane * $this->frame->format->planeBytes() + 2 * $at;

        return preg_match($pattern, substr($this->frame->bytes, $start, 2 * $count)) === 1;
    }

    /**
     * A pattern of luma with which no channel is beyond, whichever colour differences between these go with it.
     *
     * @param array{float, float} $u
     * @param array{float, float} $v
     */
    private function lumaBetween(array $u, array $v): string
    {
        [$kr, $kb] = $this->frame->format->matrix->weights();
        [$red, $blue] = [2 * (1 - $kr), 2 * (1 - $kb)];
        [$greenV, $greenU] = [$red * $kr / (1 - $kr - $kb), $blue * $kb / (1 - $kr - $kb)];

        return $this->codes(
            max(-$red * $v[0], $greenU * $u[1] + $greenV * $v[1], -$blue * $u[0]),
            max($red * $v[1], -$greenU * $u[0] - $greenV * $v[0], $blue * $u[1]),
        );
    }

    /** A pattern of luma, or of a channel, that lies so far inside the two values at least. */
    private function codes(float $below, float $above): string
    {
        $format = $this->frame->format;

        return self::between(
            $format->black() + ($this->low + $below) * $format->lumaSpan(),
            $format->black() + ($this->high - $above) * $format->lumaSpan(),
        );
    }

    /** A pattern of samples that lie between two code values, whatever their low bytes are; it may match none. */
    private static function between(float $least, float $most): string
    {
        $from = (int) max(0, ceil($least / 256));
        $to = (int) min(255, floor(($most - 255) / 256));

        return $from > $to ? '/(?!)/' : sprintf('/\A(?:.[\x%02x-\x%02x])*+\z/s', $from, $to);
    }
}
