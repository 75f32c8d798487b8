<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** Somebody seen on frames of a shot: what they look like, and where they were seen first. */
final readonly class SeenPerson
{
    /** Who is seen on fewer frames of many is nobody: nets see a face in what is none now and then. */
    private const LEAST = 2;

    private function __construct(public Descriptor $descriptor, public int $frame) {}

    /**
     * @param array<int, list<Descriptor>> $descriptors of all faces, by frame, rising
     *
     * @return list<self> the one seen on most frames first
     */
    public static function all(array $descriptors): array
    {
        $people = [];
        foreach ($descriptors as $frame => $faces) {
            foreach ($faces as $face) {
                $nearest = null;
                $least = 1.0;
                foreach ($people as $k => $one) {
                    $apart = $one['mean']->apart($face);
                    if ($apart <= $least) {
                        [$nearest, $least] = [$k, $apart];
                    }
                }
                if ($nearest === null) {
                    $people[] = ['mean' => $face, 'all' => [$face], 'frame' => $frame];
                } else {
                    $people[$nearest]['all'][] = $face;
                    $people[$nearest]['mean'] = Descriptor::mean([$people[$nearest]['mean'], $face]);
                }
            }
        }
        $least = min(self::LEAST, count($descriptors));
        usort($people, static fn(array $a, array $b): int => count($b['all']) <=> count($a['all']));

        return array_map(
            static fn(array $one): self => new self(Descriptor::mean($one['all']), $one['frame']),
            array_values(array_filter($people, static fn(array $one): bool => count($one['all']) >= $least)),
        );
    }

    /** @return array{face: string, frame: int} the descriptor as text */
    public function document(): array
    {
        return ['face' => base64_encode($this->descriptor->bytes()), 'frame' => $this->frame];
    }

    /** @param array{face: string, frame: int} $document as {@see document} gives it */
    public static function known(array $document): self
    {
        return new self(Descriptor::of((string) base64_decode($document['face'], true)), $document['frame']);
    }
}
