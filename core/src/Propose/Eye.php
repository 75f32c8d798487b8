<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\IrisCircle;

/** An eye as it is seen on a frame. */
final readonly class Eye
{
    /**
     * @param bool            $left  the person's own left
     * @param IrisCircle|null $iris  pixels
     * @param float           $tilt  of the line between its corners, radians clockwise
     * @param string|null     $doubt why it may be none, or its lids not be right; null when nothing speaks against it
     * @param bool            $round whether the iris is one for sure, whatever the lids
     */
    public function __construct(
        public bool $left,
        public ?IrisCircle $iris,
        public ?Lids $lids,
        public float $tilt,
        public ?string $doubt,
        public bool $round = false,
    ) {}

    /** @param bool $round whether the iris may be one for sure all the same */
    public function doubted(string $why, bool $round = false): self
    {
        return new self($this->left, $this->iris, $this->lids, $this->tilt, $this->doubt ?? $why, $round && $this->round);
    }

    public function sure(): bool
    {
        return $this->doubt === null;
    }

    /**
     * A place on a lid, pixels.
     *
     * @param float $t 0 at the corner on the left of the picture, 1 at the other
     *
     * @return array{float, float}
     */
    public function lidAt(float $t, bool $upper): array
    {
        if ($this->iris === null || $this->lids === null) {
            throw new \LogicException('This eye has no lids.');
        }
        [$u, $v] = $this->lids->at($t, $upper);
        $cos = cos($this->tilt);
        $sin = sin($this->tilt);

        $r = $this->iris->radius;

        return [$this->iris->x + $r * ($u * $cos - $v * $sin), $this->iris->y + $r * ($u * $sin + $v * $cos)];
    }
}
