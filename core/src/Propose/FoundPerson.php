<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;

/** A person seen on a frame, and what is proposed for them. */
final readonly class FoundPerson
{
    /**
     * @param bool                             $whole     a face; false where only eyes are seen
     * @param array{float, float, float, float} $box       round what was found: left, top, width, height, picture heights
     * @param non-empty-list<Proposal>         $proposals what others ride on first
     * @param Mesh|null                        $face      that lies on it
     * @param list<Proposal>                   $more      what somebody may ask for besides: parts of the skin by name, the whole person
     */
    public function __construct(
        public bool $whole,
        public array $box,
        public array $proposals,
        public ?Mesh $face = null,
        public array $more = [],
    ) {}
}
