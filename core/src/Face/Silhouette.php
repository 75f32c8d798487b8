<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The border of a face as it is seen on a frame, told from its middle and along the line from the chin to the brow. Picture heights. */
final readonly class Silhouette
{
    private const PLACES = 96;

    /**
     * @param list<array{float, float}> $line from the middle, closed
     * @param float                     $cos  of what turns the face upright
     */
    private function __construct(private array $line, private float $x, private float $y, private float $cos, private float $sin) {}

    public static function of(Mesh $mesh): self
    {
        $line = $mesh->outline(self::PLACES);
        [$x, $y] = [array_sum(array_column($line, 0)) / count($line), array_sum(array_column($line, 1)) / count($line)];
        [[$cx, $cy], [$bx, $by]] = [$mesh->at(Mesh::CHIN), $mesh->at(Mesh::BROW)];
        $long = max(1e-9, hypot($bx - $cx, $by - $cy));

        return new self(
            array_map(static fn(array $p): array => [$p[0] - $x, $p[1] - $y], $line),
            $x,
            $y,
            ($cy - $by) / $long,
            ($bx - $cx) / $long,
        );
    }

    /**
     * A place by its direction in the upright face and its share of the way from the middle to the border.
     *
     * @return array{float, float, float}
     */
    public function told(float $x, float $y): array
    {
        [$dx, $dy] = [$x - $this->x, $y - $this->y];
        $long = hypot($dx, $dy);
        if ($long < 1e-9) {
            return [0.0, 1.0, 0.0];
        }
        [$u, $v] = [$dx / $long, $dy / $long];

        return [$this->cos * $u + $this->sin * $v, $this->cos * $v - $this->sin * $u, $long / $this->far($u, $v)];
    }

    /**
     * The place that has this direction and share.
     *
     * @param array{float, float, float} $told
     *
     * @return array{float, float}
     */
    public function place(array $told): array
    {
        [$u, $v] = [$this->cos * $told[0] - $this->sin * $told[1], $this->cos * $told[1] + $this->sin * $told[0]];
        $far = $told[2] * $this->far($u, $v);

        return [$this->x + $far * $u, $this->y + $far * $v];
    }

    /** How far the border is from the middle in a direction. */
    private function far(float $u, float $v): float
    {
        $far = 1e-9;
        foreach ($this->line as $i => [$ax, $ay]) {
            [$bx, $by] = $this->line[($i + 1) % self::PLACES];
            $from = $u * $ay - $v * $ax;
            $to = $u * $by - $v * $bx;
            if ($from * $to <= 0.0 && $from !== $to) {
                $t = $from / ($from - $to);
                $far = max($far, $u * ($ax + $t * ($bx - $ax)) + $v * ($ay + $t * ($by - $ay)));
            }
        }

        return $far;
    }
}
