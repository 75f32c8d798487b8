<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;

/** The areas of eyes where no face is seen whole: lids and irises, and what is round them to ride on. */
final class EyeAreas extends Areas
{
    /** What they ride on, in radii of the iris: beyond the irises, above the eyes, below them at their outer ends and at the nose. */
    private const ASIDE = 3.2;
    private const ABOVE = 4.2;
    private const BELOW = 2.2;
    private const NOSE = 4.5;

    /** @param callable(string): string $id */
    public function __construct(FrameSource $source, int $frame, Live $live, callable $id)
    {
        parent::__construct($source, $frame, $live, $id(...));
    }

    /** @param non-empty-list<Eye> $eyes */
    public function proposed(array $eyes): FoundPerson
    {
        $carrier = ($this->id)('a');
        [$round, $pivot, $box] = $this->round($eyes);
        $name = count($eyes) === 2 ? 'Brows and nose bridge' : 'Round the eye';
        $proposed = [$this->area($carrier, $name, Part::Skin, [$round], new Motion(pivot: $pivot))];
        foreach ($eyes as $eye) {
            array_push($proposed, ...$this->eye($eye, $carrier, null));
        }

        return new FoundPerson(false, $box, $proposed);
    }

    /**
     * Brows, temples and the bridge of the nose.
     *
     * @param non-empty-list<Eye> $eyes
     *
     * @return array{Path, array{float, float}, array{float, float, float, float}} path, pivot and box
     */
    private function round(array $eyes): array
    {
        $irises = array_values(array_filter(array_map(static fn(Eye $eye) => $eye->iris, $eyes)));
        usort($irises, static fn($a, $b): int => $a->x <=> $b->x);
        [$first, $last] = [$irises[0] ?? throw new \LogicException('Eyes without irises.'), $irises[count($irises) - 1]];
        $radius = ($first->radius + $last->radius) / 2;
        $tilt = $eyes[0]->tilt;
        [$cos, $sin] = [cos($tilt), sin($tilt)];
        $middle = [($first->x + $last->x) / 2, ($first->y + $last->y) / 2];
        $half = hypot($last->x - $first->x, $last->y - $first->y) / 2 / $radius;
        $ring = [
            [-$half - self::ASIDE, 0.0], [-$half - 0.6 * self::ASIDE, -self::ABOVE],
            [0.0, -self::ABOVE], [$half + 0.6 * self::ASIDE, -self::ABOVE],
            [$half + self::ASIDE, 0.0], [$half + 0.3 * self::ASIDE, self::BELOW],
            [0.0, self::NOSE], [-$half - 0.3 * self::ASIDE, self::BELOW],
        ];
        $wide = $this->source->frame()->width;
        $points = array_map(fn(array $p): array => [
            max(0.0, min($wide, $middle[0] + $radius * ($p[0] * $cos - $p[1] * $sin))) / $this->height,
            max(0.0, min($this->height, $middle[1] + $radius * ($p[0] * $sin + $p[1] * $cos))) / $this->height,
        ], $ring);
        [$xs, $ys] = [array_column($points, 0), array_column($points, 1)];

        return [
            new Path(($this->id)('s'), Smooth::path($points, []), 0.01, 0.03),
            self::rounded([$middle[0] / $this->height, $middle[1] / $this->height]),
            [min($xs), min($ys), max($xs) - min($xs), max($ys) - min($ys)],
        ];
    }
}
