<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** Writes a cut as a CMX 3600 edit decision list, one cut an event. */
final class EdlWriter
{
    /** Longest reel name that readers of the form take. */
    private const REEL = 8;
    private const MOST = 999;

    /** @throws InvalidCut where it has more events than the form can number */
    public static function write(Cut $cut): string
    {
        if (count($cut->events) > self::MOST) {
            throw InvalidCut::at('', 'an edit decision list has no more than ' . self::MOST . ' events');
        }
        $base = $cut->rate->base();
        $code = static fn(int $count): string => Timecode::at($count, $base, $cut->drop)->text();
        $lines = ["TITLE: {$cut->title}", 'FCM: ' . ($cut->drop && $base % 30 === 0 ? 'DROP FRAME' : 'NON-DROP FRAME'), ''];
        foreach ($cut->events as $event) {
            $from = $cut->start + $event->at;
            $lines[] = sprintf(
                '%03d  %-8s V     C        %s %s %s %s',
                $event->number,
                self::reel($event),
                $code($event->in),
                $code($event->out),
                $code($from),
                $code($from + $event->length()),
            );
            $lines[] = "* FROM CLIP NAME: {$event->name}";
            if ($event->file !== null) {
                $lines[] = "* SOURCE FILE: {$event->file}";
            }
        }

        return implode("\r\n", $lines) . "\r\n";
    }

    private static function reel(Event $event): string
    {
        $reel = substr((string) preg_replace('/[^A-Za-z0-9_.-]/', '_', $event->reel ?? ''), 0, self::REEL);

        return $reel === '' ? 'AX' : $reel;
    }
}
