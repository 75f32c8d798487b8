<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;

/** What one tell-tale says of one area over the shot, or of the whole frame. */
final readonly class Finding
{
    /**
     * @param non-empty-array<int, float> $measures by frame, rising
     * @param string|null                 $before   a sentence on what the footage has of it untreated
     */
    public function __construct(
        public Telltale $telltale,
        public ?Area $area,
        public array $measures,
        public float $limit,
        public ?string $before = null,
    ) {}

    /**
     * What the same tell-tale says of the area in another recipe.
     *
     * @param non-empty-array<int, float> $measures
     */
    public function with(Recipe $recipe, array $measures): self
    {
        $area = $this->area === null ? null : $recipe->area($this->area->id);

        return new self($this->telltale, $area, $measures, $this->limit, $this->before);
    }

    public function rings(): bool
    {
        return $this->measure() > $this->limit;
    }

    /** How many times the limit the greatest measure is. */
    public function excess(): float
    {
        return $this->measure() / $this->limit;
    }

    /** @return list<Cure> the obvious ones, most promising first; none where it does not ring */
    public function cures(Recipe $recipe): array
    {
        return $this->rings() ? array_values(array_filter($this->telltale->cures($this, $recipe))) : [];
    }

    /** The greatest measure of the shot. */
    public function measure(): float
    {
        return max($this->measures);
    }

    /** The frame that has it. */
    public function worst(): int
    {
        return (int) array_search($this->measure(), $this->measures, true);
    }

    /**
     * The frames over the limit, as spans. What lies between two frames that a fine tell-tale looks at counts with them.
     *
     * @return list<array{int, int}>
     */
    public function spans(): array
    {
        $spans = [];
        $open = false;
        $reach = $this->telltale->isFine ? Inspection::FINE_EVERY : 2;
        foreach ($this->measures as $frame => $measure) {
            if ($measure <= $this->limit) {
                $open = false;
                continue;
            }
            if ($open && $frame - $spans[count($spans) - 1][1] <= $reach) {
                $spans[count($spans) - 1][1] = $frame;
            } else {
                $spans[] = [$frame, $frame];
            }
            $open = true;
        }

        return $spans;
    }
}
