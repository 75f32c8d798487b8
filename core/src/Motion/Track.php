<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
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

    /** @param non-empty-array<int, Step> $steps by frame, rising, without gaps */
    private function __construct(public int $start, public Model $model, public array $steps) {}

    /** @param non-empty-array<int, Step> $steps by frame, no frame missing between the first and the last */
    public static function of(int $start, Model $model, array $steps): self
    {
        ksort($steps);
        if (array_keys($steps) !== range(array_key_first($steps), array_key_last($steps))) {
            throw new \InvalidArgumentException('A track has no gaps.');
        }

        return new self($start, $model, $steps);
    }

    public static function beginning(int $start, Model $model): self
    {
        return new self($start, $model, [$start => new Step(Matrix::identity(), State::Set, 1.0)]);
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
     * @param array<int, Step> $steps connected with this track
     */
    public function with(int $start, Model $model, array $steps): self
    {
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

    /** @return array<string, mixed> as docs/recipe.md describes it */
    public function document(): array
    {
        $frames = [];
        foreach ($this->steps as $frame => $step) {
            $frames[] = [
                'frame' => $frame,
                'matrix' => array_map(static fn(float $v): float => $v === 0.0 ? 0.0 : $v, $step->matrix->m),
                'state' => $step->state->value,
                'confidence' => round($step->confidence, 4),
                ...($step->points === null ? [] : ['points' => array_map(
                    static fn(PathPoint $p): array => [$p->x, $p->y, $p->inX, $p->inY, $p->outX, $p->outY],
                    $step->points,
                )]),
                ...($step->open === null ? [] : ['open' => round($step->open, 4)]),
            ];
        }

        return ['cossel' => self::FORMAT, 'start' => $this->start, 'model' => $this->model->value, 'frames' => $frames];
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
        $root = Node::root($document)->object(['cossel', 'start', 'model', 'frames']);
        $root->get('cossel', self::FORMAT)->word([self::FORMAT]);
        $next = null;
        foreach ($root->get('frames', 'the frames')->items(1, 1_000_000) as $item) {
            $item->object(['frame', 'matrix', 'state', 'confidence', 'points', 'open']);
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
        }
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
            );
        }

        return self::of($document['start'], Model::from($document['model']), $steps);
    }

    private static function point(Node $n): void
    {
        foreach ($n->items(6, 6) as $v) {
            $v->number(-1e3, 1e3);
        }
    }
}
