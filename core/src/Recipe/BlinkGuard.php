<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Fades what an area does to its inside while the lids over it are closed. */
final readonly class BlinkGuard
{
    /** Openness of the lids at which the area is gone, and at which it is wholly there. */
    private const CLOSED = 0.2;
    private const OPEN = 0.85;

    /** @param list<Key> $keys by rising frame; from the first to the last of them they rule instead of the lids */
    public function __construct(public bool $on = false, public array $keys = []) {}

    /**
     * @param float|null $openness of the lids on the frame, 0 closed to 1; null where it is not known
     *
     * @return float 0 gone to 1 wholly there
     */
    public function weight(int $frame, ?float $openness): float
    {
        if (!$this->on) {
            return 1.0;
        }
        $n = count($this->keys);
        if ($n > 0 && $frame >= $this->keys[0]->frame && $frame <= $this->keys[$n - 1]->frame) {
            [$before, $after, $t] = Keyed::between($this->keys, $frame);

            return $before->value + ($after->value - $before->value) * $t;
        }

        return $openness === null
            ? 1.0
            : Ease::Smooth->weight(max(0.0, min(1.0, ($openness - self::CLOSED) / (self::OPEN - self::CLOSED))));
    }
}
