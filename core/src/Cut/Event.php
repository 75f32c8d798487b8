<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** One piece of a cut: frames of some media, and where in the cut they lie. */
final readonly class Event
{
    /**
     * @param int          $number from 1, in the order of the cut
     * @param string       $name   of the clip
     * @param string|null  $file   of the media, as the cut names it: a path or an address
     * @param string|null  $reel
     * @param int          $in     first frame, counted from timecode zero of the media
     * @param int          $out    the one after the last
     * @param int          $at     where the first frame lies in the cut, counted from its beginning
     * @param int|null     $start  timecode of the media's first frame, counted in frames; null where the cut does not tell
     * @param list<string> $told   what is not brought in: parts of sentences
     */
    public function __construct(
        public int $number,
        public string $name,
        public ?string $file,
        public ?string $reel,
        public int $in,
        public int $out,
        public int $at,
        public ?int $start = null,
        public array $told = [],
    ) {}

    public function length(): int
    {
        return $this->out - $this->in;
    }

    /** The name of its file without folders, or its reel, or its name: what media is looked for by. */
    public function media(): string
    {
        $file = $this->file === null ? '' : basename(rawurldecode((string) (parse_url($this->file, PHP_URL_PATH) ?: $this->file)));

        return $file !== '' ? $file : ($this->reel ?? $this->name);
    }
}
