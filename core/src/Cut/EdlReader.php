<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/**
 * Reads an edit decision list in the form of CMX 3600 (SMPTE 258M describes its family): numbered events of reel, track, transition
 * and four timecodes, with comments. Only the picture is taken; dissolves and wipes become cuts and changed speeds plain spans, and
 * are told.
 */
final class EdlReader
{
    private const EVENT = '/^(\d{1,6})\s+(\S+)\s+(\S+)\s+([A-Z]\d*)\s*(\d+)?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/';
    /** Comments, the second lines of effects and of sound, and whatever has a title of its own. */
    private const REMARK = '/^(\*|>>>|M2\b|AUD\b|[A-Z][A-Z0-9 _-]*:)/';
    private const MOST = 20_000;

    /** @var list<array<string, mixed>> what stands on the lines of each event */
    private array $rows = [];
    private string $title = '';
    private bool $drop = false;

    private function __construct(private readonly Rate $rate) {}

    /** @throws InvalidCut */
    public static function read(string $text, Rate $rate): Cut
    {
        $reader = new self($rate);
        // Older lists are in Latin letters of one byte.
        $text = mb_check_encoding($text, 'UTF-8') ? $text : (string) mb_convert_encoding($text, 'UTF-8', 'ISO-8859-1');
        $text = (string) preg_replace('/^\xEF\xBB\xBF/', '', $text);
        foreach (preg_split('/\r\n|\r|\n/', $text) ?: [] as $i => $line) {
            $reader->line($i + 1, rtrim($line));
        }

        return $reader->cut();
    }

    private function line(int $number, string $line): void
    {
        if (trim($line) === '') {
            return;
        }
        if (preg_match('/^TITLE:\s*(.*)$/i', $line, $m) === 1) {
            $this->title = trim($m[1]);
        } elseif (preg_match('/^FCM:\s*(NON-DROP|DROP)/i', $line, $m) === 1) {
            $this->drop = strtoupper($m[1]) === 'DROP';
        } elseif (preg_match('/^\d/', $line) === 1) {
            $this->event($number, $line);
        } elseif (preg_match('/^(?:\*\s*)?(FROM CLIP NAME|CLIP NAME|SOURCE FILE|FROM CLIP|FROM FILE)\s*:\s*(.*)$/i', $line, $m) === 1) {
            $this->put(stripos($m[1], 'FILE') === false ? 'name' : 'file', trim($m[2]));
        } elseif (preg_match('/^\*\s*TO CLIP NAME\s*:\s*(.*)$/i', $line, $m) === 1) {
            $this->put('name', trim($m[1]));
        } elseif (preg_match('/^M2\s+\S+\s+(-?[\d.]+)/i', $line, $m) === 1) {
            $this->tell(sprintf('its speed of %s frames a second is brought in as a plain span', (float) $m[1]));
        } elseif (preg_match(self::REMARK, $line) !== 1) {
            $found = mb_strimwidth($line, 0, 40, '…', 'UTF-8');

            throw InvalidCut::onLine($number, "expected an event, a comment or a title, found “{$found}”");
        }
    }

    private function event(int $number, string $line): void
    {
        if (preg_match(self::EVENT, $line, $m) !== 1) {
            throw InvalidCut::onLine($number, 'an event has a number, a reel, a track, a transition and four timecodes');
        }
        if (count($this->rows) >= self::MOST) {
            throw InvalidCut::onLine($number, 'more events than ' . self::MOST);
        }
        // Sound alone, and black.
        if (preg_match('/V|^B$/i', $m[3]) !== 1 || in_array(strtoupper($m[2]), ['BL', 'BLACK'], true)) {
            $this->rows[] = ['skip' => true, 'told' => []];

            return;
        }
        $drop = fn(string $text): string => $this->drop ? (string) preg_replace('/:(\d\d)\z/', ';$1', $text) : $text;
        try {
            $codes = array_map(fn(string $text): Timecode => Timecode::parse($drop($text), $this->rate->base()), array_slice($m, 6, 4));
        } catch (InvalidCut $reason) {
            throw InvalidCut::onLine($number, rtrim(str_replace('The file: ', '', $reason->getMessage()), '.'));
        }
        [$in, $out, $from, $to] = array_map(static fn(Timecode $code): int => $code->count, $codes);
        $told = match ($m[4][0]) {
            'C' => [],
            'D' => [sprintf('its dissolve of %d frames is brought in as a cut', $m[5])],
            default => ['its wipe is brought in as a cut'],
        };
        if ($out - $in !== $to - $from && $out > $in) {
            $told[] = 'it runs at another speed; so many frames as it shows are brought in';
            $out = $in + $to - $from;
        }
        $this->rows[] = [
            // The first half of a dissolve may have no length.
            'skip' => $to === $from && $m[4] === 'C',
            'reel' => $m[2],
            'in' => $in,
            'out' => $out,
            'at' => $from,
            'told' => $told,
            'drop' => $codes[2]->drop,
        ];
    }

    private function put(string $what, string $value): void
    {
        $last = array_key_last($this->rows);
        if ($last !== null && $value !== '') {
            $this->rows[$last][$what] = $value;
        }
    }

    private function tell(string $words): void
    {
        $last = array_key_last($this->rows);
        if ($last !== null) {
            $told = array_filter($this->rows[$last]['told'], static fn(string $w): bool => !str_starts_with($w, 'it runs'));
            $this->rows[$last]['told'] = [...array_values($told), $words];
        }
    }

    private function cut(): Cut
    {
        $kept = array_values(array_filter($this->rows, static fn(array $row): bool => !$row['skip']));
        if ($kept === []) {
            throw InvalidCut::at('', 'there is no event with picture in it');
        }
        usort($kept, static fn(array $a, array $b): int => $a['at'] <=> $b['at']);
        $start = $kept[0]['at'];
        $events = [];
        foreach ($kept as $i => $row) {
            $reel = strtoupper($row['reel']) === 'AX' ? null : $row['reel'];
            $name = $row['name'] ?? $reel ?? 'event ' . ($i + 1);
            $at = $row['at'] - $start;
            $events[] = new Event($i + 1, $name, $row['file'] ?? null, $reel, $row['in'], $row['out'], $at, null, $row['told']);
        }

        return new Cut($this->title, $this->rate, $events, $start, $kept[0]['drop']);
    }
}
