<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** How an outline moves through the shot: not at all, by its own track, or with another area. */
final readonly class Motion
{
    public const NONE = 'none';
    public const FOLLOW = 'follow';
    public const RIDE = 'ride';

    /** Every channel a motion can have. */
    public const WHOLE = [Channel::Position, Channel::Rotation, Channel::Scale, Channel::Shear, Channel::Perspective];

    /**
     * @param array{int, int}     $span  frames followed, both included
     * @param list<Channel>       $use
     * @param array{float, float} $pivot about which channels are dropped and corrections turn
     * @param string|null         $track sha256 of the track
     * @param list<MotionKey>     $keys  by rising frame
     * @param string|null         $on    id of the area it rides on
     */
    public function __construct(
        public string $by = self::NONE,
        public int $start = 0,
        public array $span = [0, 0],
        public Model $model = Model::Similarity,
        public Look $look = new Look(),
        public array $use = self::WHOLE,
        public array $pivot = [0.0, 0.0],
        public ?string $track = null,
        public array $keys = [],
        public ?string $on = null,
    ) {}

    public function uses(Channel $channel): bool
    {
        return in_array($channel, $this->use, true);
    }

    public function withModel(Model $model): self
    {
        return new self(...[...get_object_vars($this), 'model' => $model]);
    }

    /** @param list<MotionKey> $keys by rising frame */
    public function withKeys(array $keys): self
    {
        return new self(...[...get_object_vars($this), 'keys' => $keys]);
    }
}
