<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;

/**
 * The 68 points of a face in their usual order (C. Sagonas et al., "300 Faces in-the-Wild Challenge", ICCVW 2013), in
 * picture heights. Left and right of the names are the person's own, as seen from the front: the person's left is on
 * the right of the picture.
 */
final readonly class Landmarks
{
    public const COUNT = 68;
    /** Points of a mesh at their places. */
    private const OF_MESH = [
        127, 234, 93, 58, 172, 136, 149, 148, 152, 377, 378, 365, 397, 288, 323, 454, 356,
        70, 63, 105, 66, 107, 336, 296, 334, 293, 300, 168, 6, 195, 4, 98, 97, 2, 326, 327,
        33, 160, 158, 133, 153, 144, 362, 385, 387, 263, 373, 380,
        61, 39, 37, 0, 267, 269, 291, 405, 314, 17, 84, 181, 78, 82, 13, 312, 308, 317, 14, 87,
    ];

    /** @param list<array{float, float}> $points */
    private function __construct(private array $points, public ?Mesh $mesh = null) {}

    public static function ofMesh(Mesh $mesh): self
    {
        return new self(array_map($mesh->at(...), self::OF_MESH), $mesh);
    }

    /**
     * @param list<array{float, float}> $points
     *
     * @throws \InvalidArgumentException unless there are 68
     */
    public static function of(array $points): self
    {
        if (count($points) !== self::COUNT) {
            throw new \InvalidArgumentException('A face has ' . self::COUNT . ' landmarks, ' . count($points) . ' given.');
        }

        return new self($points);
    }

    /** @return list<array{float, float}> from ear to ear along the chin */
    public function jaw(): array
    {
        return array_slice($this->points, 0, 17);
    }

    /** @return list<array{float, float}> six points round the opening of an eye, from one corner over the upper lid */
    public function lids(bool $left): array
    {
        return array_slice($this->points, $left ? 42 : 36, 6);
    }

    /** @return list<array{float, float}> twelve points round the lips, from one corner over the upper lip */
    public function outerLips(): array
    {
        return array_slice($this->points, 48, 12);
    }

    /** @return list<array{float, float}> eight points round the opening of the mouth */
    public function innerLips(): array
    {
        return array_slice($this->points, 60, 8);
    }

    /** @return array{float, float} the middle between both brows */
    public function brows(): array
    {
        return self::middle(array_slice($this->points, 17, 10));
    }

    /** @return array{float, float} the middle between both eyes */
    public function eyes(): array
    {
        return self::middle(array_slice($this->points, 36, 12));
    }

    /** @return array{float, float} */
    public function chin(): array
    {
        return $this->points[8];
    }

    /** By how much the head is tilted, degrees clockwise. */
    public function tilt(): float
    {
        [$rx, $ry] = self::middle($this->lids(false));
        [$lx, $ly] = self::middle($this->lids(true));

        return rad2deg(atan2($ly - $ry, $lx - $rx));
    }

    /** From ear to ear. */
    public function width(): float
    {
        return hypot($this->points[16][0] - $this->points[0][0], $this->points[16][1] - $this->points[0][1]);
    }

    /**
     * @param list<array{float, float}> $points
     *
     * @return array{float, float}
     */
    public static function middle(array $points): array
    {
        return [array_sum(array_column($points, 0)) / count($points), array_sum(array_column($points, 1)) / count($points)];
    }
}
