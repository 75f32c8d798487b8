<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Face;

use Cossel\Core\Face\Descriptor;
use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Ring;

/** Made-up faces: an oval with two eyes and a mouth, flat. */
final class Meshes
{
    /** Of a face one large: middles of the right and the left eye, and of the mouth, from its own middle. */
    public const EYES = [[-0.2, -0.15], [0.2, -0.15]];
    public const MOUTH = [0.0, 0.25];

    /**
     * @param float                $lids  how far these are apart, in sizes of the face
     * @param float                $lips  and these
     * @param array{float, float}  $gaze  of both irises, from the middle of the eye
     */
    public static function face(float $x, float $y, float $size, float $lids = 0.05, float $lips = 0.0, array $gaze = [0.0, 0.0], float $score = 25.0, float $across = 1.0): Mesh
    {
        $places = [];
        for ($k = 0; $k < Mesh::POINTS; ++$k) {
            // Strewn evenly over the oval.
            $r = 0.44 * sqrt(($k + 0.5) / Mesh::POINTS);
            $places[$k] = [$r * cos(2.39996 * $k), 1.1 * $r * sin(2.39996 * $k)];
        }
        $oval = Ring::Oval->points();
        foreach ($oval as $i => $point) {
            $turn = 2 * M_PI * $i / count($oval);
            $places[$point] = [0.45 * sin($turn), -0.5 * cos($turn)];
        }
        foreach ([[Ring::RightLids, 0, 468], [Ring::LeftLids, 1, 473]] as [$ring, $side, $iris]) {
            self::lens($places, $ring, self::EYES[$side], 0.16, $lids);
            for ($i = 0; $i < 5; ++$i) {
                $places[$iris + $i] = [self::EYES[$side][0] + $gaze[0], self::EYES[$side][1] + $gaze[1]];
            }
        }
        self::lens($places, Ring::OuterLips, self::MOUTH, 0.3, 0.1 + $lips);
        self::lens($places, Ring::InnerLips, self::MOUTH, 0.24, $lips);
        $flat = [];
        foreach ($places as [$u, $v]) {
            array_push($flat, $x + $size * $across * $u, $y + $size * $v, 0.0);
        }

        return Mesh::of($score, $flat);
    }

    /** Of somebody: two of them are as far apart as the angles between these, up to a quarter turn. */
    public static function descriptor(float $turn): Descriptor
    {
        $half = Descriptor::NUMBERS / 2;
        $byte = static fn(float $v): int => (int) round(255 * max(0.0, $v));

        return Descriptor::of(pack('C*', ...array_fill(0, $half, $byte(cos($turn))), ...array_fill(0, $half, $byte(sin($turn)))));
    }

    /**
     * @param \Closure(int): list<Mesh> $faces on a frame
     * @param array{int, int}           $span
     */
    public static function source(\Closure $faces, array $span): FaceSource
    {
        return new class ($faces, $span) implements FaceSource {
            /** @param array{int, int} $span */
            public function __construct(private readonly \Closure $faces, private readonly array $span) {}

            public function span(): array
            {
                return $this->span;
            }

            public function on(int $frame): array
            {
                return ($this->faces)($frame);
            }
        };
    }

    /**
     * @param array<int, array{float, float}> $places
     * @param array{float, float}             $middle
     */
    private static function lens(array &$places, Ring $ring, array $middle, float $wide, float $high): void
    {
        $points = $ring->points();
        foreach ($points as $i => $point) {
            $turn = M_PI - 2 * M_PI * $i / count($points);
            $places[$point] = [$middle[0] + $wide / 2 * cos($turn), $middle[1] - $high / 2 * sin($turn)];
        }
    }
}
