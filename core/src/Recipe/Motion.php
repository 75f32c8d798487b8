<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** How an outline moves through the shot: not at all, by its own track, or with another area. */
final readonly class Motion
{
    public const NONE = 'none';
    public const FOLLOW = 'follow';
    public const RIDE = 'ride';

    /**
     * @param array{int, int}     $span  frames followed, both included
     * @param float               $look  width of the band round the outline that is looked at too, picture heights
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
        public float $look = 0.0,
        public array $use = [Channel::Position, Channel::Rotation, Channel::Scale],
        public array $pivot = [0.0, 0.0],
        public ?string $track = null,
        public array $keys = [],
        public ?string $on = null,
    ) {}
}
