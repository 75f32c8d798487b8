<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** How much of a person each place of a picture shows, as a net tells it: cells over the whole picture, row by row, 0 to 255. */
final readonly class PeopleMatte
{
    /** How much less what lies under a face's middle is away from it, against what lies beside: bodies are below their faces. */
    private const BELOW = 0.35;
    private const MOST = 4096;

    /** @param list<int> $cells */
    private function __construct(public int $across, public int $down, public array $cells) {}

    /**
     * @param string $cells a byte each
     *
     * @throws \InvalidArgumentException unless there are as many
     */
    public static function of(int $across, int $down, string $cells): self
    {
        if ($across < 1 || $down < 1 || max($across, $down) > self::MOST || strlen($cells) !== $across * $down) {
            throw new \InvalidArgumentException("{$across} times {$down} cells, " . strlen($cells) . ' given.');
        }

        return new self($across, $down, array_values((array) unpack('C*', $cells)));
    }

    /**
     * What of it is one person: the cells that are nearer to their face than to any other, by the sizes of these.
     *
     * @param list<FacePlace> $others
     */
    public function person(FacePlace $own, array $others): self
    {
        if ($others === []) {
            return $this;
        }
        $ways = array_map(static fn(FacePlace $face): array => [$face->x, $face->y, 1 / max(1e-6, $face->size)], [$own, ...$others]);
        $cells = $this->cells;
        $unit = 1 / $this->down;
        for ($j = 0, $k = 0; $j < $this->down; ++$j) {
            for ($i = 0; $i < $this->across; ++$i, ++$k) {
                if ($cells[$k] > 0 && self::nearest($ways, ($i + 0.5) * $unit, ($j + 0.5) * $unit) !== 0) {
                    $cells[$k] = 0;
                }
            }
        }

        return new self($this->across, $this->down, $cells);
    }

    /**
     * Where anything of it is.
     *
     * @param int $least of 255 that counts
     *
     * @return array{int, int, int, int}|null left, top, right and bottom in cells, the last two beyond it; null where there is nothing
     */
    public function extent(int $least): ?array
    {
        $left = $top = PHP_INT_MAX;
        $right = $bottom = 0;
        foreach ($this->cells as $k => $v) {
            if ($v >= $least) {
                [$i, $j] = [$k % $this->across, intdiv($k, $this->across)];
                [$left, $top, $right, $bottom] = [min($left, $i), min($top, $j), max($right, $i + 1), max($bottom, $j + 1)];
            }
        }

        return $right === 0 ? null : [$left, $top, $right, $bottom];
    }

    /**
     * @param non-empty-list<array{float, float, float}> $ways
     */
    private static function nearest(array $ways, float $x, float $y): int
    {
        $best = 0;
        $least = INF;
        foreach ($ways as $k => [$u, $v, $scale]) {
            $away = $scale * hypot($x - $u, $y > $v ? self::BELOW * ($y - $v) : $y - $v);
            if ($away < $least) {
                [$best, $least] = [$k, $away];
            }
        }

        return $best;
    }
}
