<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;
use Cossel\Core\Geometry\Hull;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\PathShape;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;

/** What of a face somebody asks for by name: its skin without eyes, brows, lips and teeth, and parts of that. All rides on the face. */
final class SkinParts extends Areas
{
    /** Feather to each side, in sizes of the face. */
    private const FEATHER = [0.01, 0.035];
    /** What is seen of a part must be so large, against the same on the other side of the face. */
    private const TURNED = 0.3;
    private const HAIRS = 0.008;

    /** @param callable(string): string $id */
    public function __construct(FrameSource $source, private readonly Mesh $mesh, int $frame, Live $live, callable $id)
    {
        parent::__construct($source, $frame, $live, $id(...));
    }

    /**
     * @param Area                                                            $face
     * @param list<Proposal>                                                  $on        what is proposed besides, on the face
     * @param \Closure(list<array{float, float}>): list<array{float, float}> $stretched places on the forehead, up to the hairline
     *
     * @return list<Proposal>
     */
    public function proposed(Area $face, array $on, \Closure $stretched): array
    {
        $skin = [new AreaShape(($this->id)('s'), $face->id)];
        foreach ($on as $proposal) {
            if ($proposal->doubt === null && $proposal->area->is(Part::Lids, Part::Lips, Part::Teeth)) {
                $skin[] = new AreaShape(($this->id)('s'), $proposal->area->id, join: Join::Cut);
            }
        }
        $parts = [];
        foreach (Region::cases() as $region) {
            if (!$this->isSeen($region)) {
                continue;
            }
            $places = array_map($this->mesh->at(...), $region->points());
            // Seen from aside a forehead folds over its far end.
            $path = $this->path($region, $region === Region::Forehead ? Hull::of($stretched($places)) : $places);
            $parts[] = $this->area(
                ($this->id)('a'),
                $region->title(),
                $region->part(),
                [$path],
                self::ride($face->id, Landmarks::middle($places)),
            );
            if ($region->part() === Part::Brow) {
                $skin[] = new Path(($this->id)('s'), $path->points, $path->featherIn, $path->featherOut, $path->grow, join: Join::Cut);
            }
        }

        return [$this->area(($this->id)('a'), 'Skin', Part::Skin, $skin, self::ride($face->id, $face->motion->pivot)), ...$parts];
    }

    /** @param list<array{float, float}> $places */
    private function path(Region $region, array $places): Path
    {
        $size = $this->mesh->size();
        $grow = $region->part() === Part::Brow ? self::HAIRS * $size : 0.0;
        [$in, $out] = array_map(static fn(float $share): float => round($share * $size, 4), self::FEATHER);

        return new Path(($this->id)('s'), Smooth::path($places, []), $in, $out, round($grow, 4));
    }

    /** Whether it is not turned away: as large as its other, nearly, and inside the frame for the most part. */
    private function isSeen(Region $region): bool
    {
        $other = $region->other();
        if ($other !== null && $this->large($region) < self::TURNED * $this->large($other)) {
            return false;
        }
        $wide = $this->source->frame()->width / $this->height;
        $inside = array_filter($region->points(), function (int $point) use ($wide): bool {
            [$x, $y] = $this->mesh->at($point);

            return $x >= 0 && $y >= 0 && $x <= $wide && $y <= 1;
        });

        return 2 * count($inside) >= count($region->points());
    }

    private function large(Region $region): float
    {
        return PathShape::area(array_map(fn(int $point): PathPoint => new PathPoint(...$this->mesh->at($point)), $region->points()));
    }
}
