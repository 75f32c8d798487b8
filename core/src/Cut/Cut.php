<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** The picture track of an edit: events in order. */
final readonly class Cut
{
    /**
     * @param list<Event> $events
     * @param int         $start timecode of the cut's first frame, counted in frames
     *
     * @throws InvalidCut where events have no length or lie over each other
     */
    public function __construct(
        public string $title,
        public Rate $rate,
        public array $events,
        public int $start = 0,
        public bool $drop = false,
    ) {
        $end = 0;
        foreach ($events as $event) {
            if ($event->length() <= 0) {
                throw InvalidCut::of($event, $event->length() === 0 ? 'it has no length' : 'it ends before it begins');
            }
            if ($event->at < $end) {
                throw InvalidCut::of($event, 'it begins before the one before it ends');
            }
            $end = $event->at + $event->length();
        }
    }
}
