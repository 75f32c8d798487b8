<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Parallax;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\Warp;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Node;
use Cossel\Core\Recipe\PathPoint;

/**
 * What a follow found: for every frame a motion from one reference. Only T(f) T(g)^-1 is ever used, so the reference
 * itself does not matter.
 */
final readonly class Track
{
    public const FORMAT = 'track/1';
    /** Places to a side by which a motion is restated. */
    private const GRID = 12;

    /** @param non-empty-array<int, Step> $steps by frame, rising, without gaps */
    private function __construct(public int $start, public Model $model, public array $steps, public ?Relief $relief) {}

    /**
     * @param non-empty-array<int, Step> $steps  by frame, no frame missing between the first and the last
     * @param Relief|null                $relief of the thing on the reference, in picture heights
     */
    public static function of(int $start, Model $model, array $steps, ?Relief $relief = null): self
    {
        ksort($steps);
        if (array_keys($steps) !== range(array_key_first($steps), array_key_last($steps))) {
            throw new \InvalidArgumentException('A track has no gaps.');
        }

        return new self($start, $model, $steps, $relief);
    }

    public static function beginning(int $start, Model $model): self
    {
        return self::of($start, $model, [$start => new Step(Matrix::identity(), State::Set, 1.0)]);
    }

    public function first(): int
    {
        return array_key_first($this->steps);
    }

    public function last(): int
    {
        return array_key_last($this->steps);
    }

    /** The motion to a frame; beyond its ends the track stands still. */
    public function matrix(int $frame): Matrix
    {
        return $this->step($frame)->matrix;
    }

    /** How the points that were followed on their own have moved from one frame to another, the motion taken off. */
    public function warp(int $frame, int $at): ?Warp
    {
        $from = $this->step($at);
        $to = $this->step($frame);
        if ($from->points === null || $to->points === null || $from === $to) {
            return null;
        }
        $back = $from->matrix->times($to->matrix->inverse());

        return new Warp($from->points, array_map(static fn(PathPoint $p): PathPoint => $p->moved($back), $to->points));
    }

    /** Where the thing is on a frame, from the reference. */
    public function pose(int $frame): Pose
    {
        $step = $this->step($frame);
        if ($this->relief === null) {
            return new Pose($step->matrix);
        }
        // The shift comes first there, and after the motion here.
        [$a, $b, , $c, $d] = $step->matrix->m;
        $det = $a * $d - $b * $c;
        [$u, $v] = $step->depth;

        return new Pose($step->matrix, parallax: new Parallax($this->relief, ($d * $u - $b * $v) / $det, ($a * $v - $c * $u) / $det));
    }

    /** How far the lids are open, where an iris was followed. */
    public function open(int $frame): ?float
    {
        return $this->step($frame)->open;
    }

    private function step(int $frame): Step
    {
        return $this->steps[max($this->first(), min($this->last(), $frame))];
    }

    /**
     * This track with newly followed frames in place of its own. The new steps are stated from their start frame; they
     * are put on top of where this track has that frame.
     *
     * @param array<int, Step> $steps  connected with this track
     * @param Relief|null      $relief of the thing on the start frame
     */
    public function with(int $start, Model $model, array $steps, ?Relief $relief = null): self
    {
        if ($relief !== null || $this->relief !== null) {
            return $this->restated($start, $relief)->with($start, $model, $steps)->on($relief);
        }
        $on = $this->matrix($start);
        $all = $this->steps;
        foreach ($steps as $frame => $step) {
            $all[$frame] = $step->on($on);
        }
        $all[$start] = isset($steps[$start])
            ? $all[$start]
            : new Step($on, State::Set, 1.0, $this->step($start)->points, $this->step($start)->open);
        // A frame that the new steps do not reach from the old ones is left out rather than guessed.
        $connected = [$start => $all[$start]];
        for ($f = $start + 1; isset($all[$f]); ++$f) {
            $connected[$f] = $all[$f];
        }
        for ($f = $start - 1; isset($all[$f]); --$f) {
            $connected[$f] = $all[$f];
        }

        return self::of($start, $model, $connected);
    }

    /** This track with a frame as its reference, each motion as near to what it is as a relief there lets it be. */
    private function restated(int $start, ?Relief $relief): self
    {
        $from = $this->pose($start);
        $around = $relief ?? $this->relief ?? throw new \LogicException('Only a track over a relief is restated.');
        $places = [];
        for ($j = 0; $j <= self::GRID; ++$j) {
            for ($i = 0; $i <= self::GRID; ++$i) {
                $places[] = [$around->x + $around->width * $i / self::GRID, $around->y + $around->height * $j / self::GRID];
            }
        }
        $depths = array_map(static fn(array $p): float => $relief?->depth(...$p) ?? 0.0, $places);
        $under = array_map(static fn(array $p): array => $from->undo(...$p), $places);
        $steps = [];
        foreach (array_keys($this->steps) as $frame) {
            $to = $this->pose($frame);
            $now = array_map(static fn(array $q): array => $to->apply(...$q), $under);
            $fit = $frame === $start ? null : ReliefMotion::least($places, $depths, $now);
            $steps[$frame] = $this->steps[$frame]->moved(...($fit === null ? [Matrix::identity()] : [$fit->matrix, $fit->depth]));
        }

        return new self($start, $this->model, $steps, null);
    }

    private function on(?Relief $relief): self
    {
        return new self($this->start, $this->model, $this->steps, $relief);
    }

    /** @return array<string, mixed> as docs/recipe.md describes it */
    public function document(): array
    {
        $frames = [];
        foreach ($this->steps as $frame => $step) {
            $frames[] = [
                'frame' => $frame,
                'matrix' => self::plain($step->matrix->m),
                'state' => $step->state->value,
                'confidence' => round($step->confidence, 4),
                ...($step->points === null ? [] : ['points' => array_map(
                    static fn(PathPoint $p): array => [$p->x, $p->y, $p->inX, $p->inY, $p->outX, $p->outY],
                    $step->points,
                )]),
                ...($step->open === null ? [] : ['open' => round($step->open, 4)]),
                ...($this->relief === null ? [] : ['depth' => self::plain($step->depth)]),
            ];
        }

        return [
            'cossel' => self::FORMAT,
            'start' => $this->start,
            'model' => $this->model->value,
            ...($this->relief === null ? [] : ['relief' => $this->relief->document()]),
            'frames' => $frames,
        ];
    }

    public function json(): string
    {
        return json_encode($this->document(), JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);
    }

    /**
     * @param mixed $document as json_decode(…, true) gives it
     *
     * @throws \Cossel\Core\Recipe\InvalidRecipe
     */
    public static function read(mixed $document): self
    {
        $root = Node::root($document)->object(['cossel', 'start', 'model', 'relief', 'frames']);
        $root->get('cossel', self::FORMAT)->word([self::FORMAT]);
        $next = null;
        foreach ($root->get('frames', 'the frames')->items(1, 1_000_000) as $item) {
            $item->object(['frame', 'matrix', 'state', 'confidence', 'points', 'open', 'depth']);
            $next = 1 + $item->get('frame', 'a frame')->whole($next ?? 0, $next ?? 1_000_000);
            $numbers = array_map(static fn(Node $n): float => $n->number(-1e6, 1e6), $item->get('matrix', 'nine numbers')->items(9, 9));
            try {
                Matrix::of($numbers)->inverse();
            } catch (\DomainException) {
                throw $item->get('matrix')->unexpected('a motion that can be undone');
            }
            $item->get('state', 'a state')->oneOf(State::class);
            $item->get('confidence', 'a confidence')->number(0, 1);
            $item->optional('points', static fn(Node $points): array => array_map(self::point(...), $points->items(2, 500)), []);
            $item->optional('open', static fn(Node $n): float => $n->number(0, 1), null);
            $item->optional('depth', self::depth(...), null);
        }
        $root->optional('relief', self::relief(...), null);
        $root->get('start', 'a frame')->whole(0, 1_000_000);
        $root->get('model', 'a model')->oneOf(Model::class);

        return self::known($document);
    }

    /**
     * Of a document that was checked when it was kept: many times quicker.
     *
     * @param array<string, mixed> $document as {@see document} gives it, or its JSON
     */
    public static function known(array $document): self
    {
        $steps = [];
        foreach ($document['frames'] as $frame) {
            $points = $frame['points'] ?? null;
            $steps[$frame['frame']] = new Step(
                Matrix::of($frame['matrix']),
                State::from($frame['state']),
                (float) $frame['confidence'],
                $points === null ? null : array_map(static fn(array $p): PathPoint => new PathPoint(...$p), $points),
                isset($frame['open']) ? (float) $frame['open'] : null,
                array_map(floatval(...), $frame['depth'] ?? [0.0, 0.0]),
            );
        }
        $relief = isset($document['relief']) ? new Relief(...$document['relief']) : null;

        return self::of($document['start'], Model::from($document['model']), $steps, $relief);
    }

    /**
     * Without minus zero.
     *
     * @param list<float> $numbers
     *
     * @return list<float>
     */
    private static function plain(array $numbers): array
    {
        return array_map(static fn(float $v): float => $v === 0.0 ? 0.0 : $v, $numbers);
    }

    private static function depth(Node $n): void
    {
        foreach ($n->items(2, 2) as $v) {
            $v->number(-1e3, 1e3);
        }
    }

    private static function relief(Node $n): void
    {
        $n->object(['x', 'y', 'width', 'height', 'columns', 'rows', 'depths']);
        foreach (['x' => [-1e3, 1e3], 'y' => [-1e3, 1e3], 'width' => [1e-4, 1e3], 'height' => [1e-4, 1e3]] as $name => $range) {
            $n->get($name, 'a length')->number(...$range);
        }
        $count = $n->get('columns', 'a count')->whole(4, 200) * $n->get('rows', 'a count')->whole(4, 200);
        foreach ($n->get('depths', 'the depths')->items($count, $count) as $depth) {
            $depth->number(-1e3, 1e3);
        }
    }

    private static function point(Node $n): void
    {
        foreach ($n->items(6, 6) as $v) {
            $v->number(-1e3, 1e3);
        }
    }
}
