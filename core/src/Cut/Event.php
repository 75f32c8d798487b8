<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** One piece of a cut: frames of some media, and where in the cut they lie. */
final readonly class Event
{
    /** Endings that names of media have. */
    private const MEDIA = 'mov|mp4|m4v|mkv|webm|mxf|avi|m?ts|m2ts|mpe?g|dpx|exr|tiff?|png|jpe?g|zip';

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

    /** What media is asked for by: its file without folders; else its own name where that is one of a file; else its reel, or its name. */
    public function media(): string
    {
        return $this->names()[0];
    }

    /**
     * Names that its media may have: that of its file, or where none is told its reel's and its own.
     *
     * @return non-empty-list<string>
     */
    public function names(): array
    {
        $file = $this->file === null ? '' : basename(rawurldecode((string) (parse_url($this->file, PHP_URL_PATH) ?: $this->file)));
        if ($file !== '') {
            return [$file];
        }
        if ($this->reel === null) {
            return [$this->name];
        }

        return $this->title() === $this->name ? [$this->reel, $this->name] : [$this->name, $this->reel];
    }

    /** Its name, without the ending where it is that of a file. */
    public function title(): string
    {
        return (string) preg_replace('/(?<=.)\.(?:' . self::MEDIA . ')\z/i', '', $this->name);
    }
}
