<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Face\FaceSource;
use Cossel\Core\Face\FollowedFace;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Face\Ring;
use Cossel\Core\Face\Steadied;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;

/**
 * The part of a face an outline lies on, as landmarks tell it on each frame: an outline goes where the part's own points go. Where the
 * face is not seen the head carries it.
 */
final class FaceCarrier implements Carrier
{
    /** Of a part's own size: how far its middle may be from that of an outline that is on it. */
    private const ON = 0.6;
    /** An eye counts as open and as shut where its lids are this far apart, of how far they usually are; */
    private const OPEN = 0.8;
    private const SHUT = 0.45;
    /** their usual distance is that of so many of its frames that are wider. */
    private const USUAL = 0.7;
    /** and no less than this, in lengths of the eye: on all of its frames it may be shut. */
    private const NARROW = 0.16;
    /**
     * A mouth counts as open and as shut where its lips are this far apart, in breadths of it; or as far as on the start frame, if that
     * is less.
     */
    private const PARTED = 0.1;
    private const CLOSED = 0.02;

    /** @var array<string, PartMotion> */
    private array $motions = [];

    /**
     * @param array<int, non-empty-list<array{float, float}>> $places of the part's points, by frame, picture heights
     * @param array<int, float>                               $open   how far it is open, by frame, 0 to 1
     */
    private function __construct(private readonly array $places, private readonly array $open, private readonly ?Carrier $head) {}

    /**
     * @param array{float, float} $middle of the area's outline on the start frame, picture heights
     * @param Carrier|null        $head   what carries it where no face is seen
     *
     * @return self|null null where its part is of no face that is seen on the start frame
     */
    public static function of(Area $area, array $middle, FaceSource $faces, int $start, ?Carrier $head): ?self
    {
        $best = null;
        $least = self::ON;
        foreach ($faces->on($start) as $face) {
            foreach (self::parts($area) as $left => $rings) {
                $ring = $face->along($rings[0]);
                [$x, $y] = $area->is(Part::Iris) ? $face->iris((bool) $left) : self::mean($ring);
                $away = hypot($x - $middle[0], $y - $middle[1]) / max(1e-6, self::breadth($ring));
                if ($face->isSure() && $away < $least) {
                    [$best, $least] = [[$face, (bool) $left, $rings], $away];
                }
            }
        }
        if ($best === null) {
            return null;
        }
        [$face, $left, $rings] = $best;
        $followed = FollowedFace::from($faces, $face, $start);
        $points = array_merge(...array_map(static fn(Ring $ring): array => $ring->points(), $rings));
        $open = match (true) {
            $area->is(Part::Iris) => self::eyeOpen($followed, $left),
            $area->is(Part::Teeth) => self::mouthOpen($followed, $face),
            default => [],
        };
        $places = $area->is(Part::Iris) ? self::irises($followed, $left, $open) : $followed->steady($points);

        return new self($places, $open, $head);
    }

    public function moved(array $points, int $from, int $to, int $height): array
    {
        if ($from === $to) {
            return $points;
        }
        if (!isset($this->places[$from], $this->places[$to])) {
            return $this->head === null ? $points : $this->head->moved($points, $from, $to, $height);
        }
        $inPixels = fn(int $frame): array => $this->inPixels($frame, $height);
        $motion = $this->motions["{$from} {$to} {$height}"] ??= PartMotion::between($inPixels($from), $inPixels($to));

        return array_map($motion->point(...), $points);
    }

    public function carries(int $frame): bool
    {
        return $this->sees($frame) || ($this->head?->carries($frame) ?? false);
    }

    public function sees(int $frame): bool
    {
        return isset($this->places[$frame]);
    }

    public function open(int $frame): ?float
    {
        return $this->open[$frame] ?? null;
    }

    public function holds(int $frame, array $points, int $height): bool
    {
        return $this->sees($frame) || $this->head === null || $this->head->holds($frame, $points, $height);
    }

    /** @return array<int, non-empty-list<Ring>> what an area may lie on: of the right side, and of the left */
    private static function parts(Area $area): array
    {
        return match (true) {
            $area->is(Part::Lids, Part::Iris, Part::Eye, Part::Whites) => [[Ring::RightLids], [Ring::LeftLids]],
            $area->is(Part::Lips) => [[Ring::OuterLips, Ring::InnerLips]],
            $area->is(Part::Teeth) => [[Ring::InnerLips]],
            default => [],
        };
    }

    /**
     * An iris as its circle, which lies where it does between the corners of the eye while the lids hide it.
     *
     * @param array<int, float> $open
     *
     * @return array<int, non-empty-list<array{float, float}>>
     */
    private static function irises(FollowedFace $face, bool $left, array $open): array
    {
        $middles = $face->steady([$left ? 473 : 468]);
        $corners = $face->steady($left ? [362, 263] : [33, 133]);
        // How large it is goes by the head: landmarks do not tell its edge well.
        $sizes = Steadied::runs(array_map(static fn(Mesh $mesh): array => [$mesh->firm()], $face->meshes()));
        $places = $within = [];
        foreach ($middles as $frame => [$middle]) {
            [$a, $b] = $corners[$frame];
            $eye = hypot($b[0] - $a[0], $b[1] - $a[1]);
            [$cos, $sin] = [($b[0] - $a[0]) / $eye, ($b[1] - $a[1]) / $eye];
            [$x, $y] = [$middle[0] - ($a[0] + $b[0]) / 2, $middle[1] - ($a[1] + $b[1]) / 2];
            $within[$frame] = [($cos * $x + $sin * $y) / $eye, ($cos * $y - $sin * $x) / $eye];
        }
        $isOpen = array_filter($open, static fn(float $v): bool => $v >= 1.0);
        foreach ($within as $frame => $at) {
            [$u, $v] = ($open[$frame] ?? 1.0) >= 1.0 ? $at : self::laid($within, $isOpen, $frame) ?? $at;
            [$a, $b] = $corners[$frame];
            [$dx, $dy] = [$b[0] - $a[0], $b[1] - $a[1]];
            [$x, $y] = [($a[0] + $b[0]) / 2 + $u * $dx - $v * $dy, ($a[1] + $b[1]) / 2 + $v * $dx + $u * $dy];
            $r = $sizes[$frame][0] / 10;
            $places[$frame] = [[$x, $y], [$x + $r, $y], [$x, $y + $r], [$x - $r, $y], [$x, $y - $r]];
        }

        return $places;
    }

    /**
     * Laid between the nearest frames before and after that are known.
     *
     * @param array<int, array{float, float}> $within
     * @param array<int, float>               $known
     *
     * @return array{float, float}|null
     */
    private static function laid(array $within, array $known, int $frame): ?array
    {
        $before = $after = null;
        foreach (array_keys($known) as $f) {
            if ($f < $frame) {
                $before = $f;
            } elseif ($f > $frame) {
                $after = $f;
                break;
            }
        }
        [$from, $to] = [$before ?? $after, $after ?? $before];
        if ($from === null || $to === null) {
            return null;
        }
        $t = $from === $to ? 0.0 : ($frame - $from) / ($to - $from);

        [[$u, $v], [$p, $q]] = [$within[$from], $within[$to]];

        return [$u + $t * ($p - $u), $v + $t * ($q - $v)];
    }

    /** @return array<int, float> */
    private static function eyeOpen(FollowedFace $face, bool $left): array
    {
        $apart = array_map(static fn(Mesh $mesh): float => $mesh->lidsApart($left), $face->meshes());
        $usual = max(self::NARROW, self::share($apart, self::USUAL));

        return array_map(static fn(float $v): float => max(0.0, min(1.0, ($v / $usual - self::SHUT) / (self::OPEN - self::SHUT))), $apart);
    }

    /** @return array<int, float> */
    private static function mouthOpen(FollowedFace $face, Mesh $start): array
    {
        $wide = max(2 * self::CLOSED, min(self::PARTED, $start->lipsApart()));

        $open = static fn(Mesh $mesh): float => ($mesh->lipsApart() - self::CLOSED) / ($wide - self::CLOSED);

        return array_map(static fn(Mesh $mesh): float => max(0.0, min(1.0, $open($mesh))), $face->meshes());
    }

    /** @param array<int, float> $values */
    private static function share(array $values, float $share): float
    {
        sort($values);

        return $values === [] ? 1.0 : max(1e-6, $values[(int) ($share * (count($values) - 1))]);
    }

    /** @return non-empty-list<array{float, float}> */
    private function inPixels(int $frame, int $height): array
    {
        return array_map(static fn(array $p): array => [$p[0] * $height, $p[1] * $height], $this->places[$frame]);
    }

    /**
     * @param non-empty-list<array{float, float}> $places
     *
     * @return array{float, float}
     */
    private static function mean(array $places): array
    {
        return [array_sum(array_column($places, 0)) / count($places), array_sum(array_column($places, 1)) / count($places)];
    }

    /** @param non-empty-list<array{float, float}> $ring */
    private static function breadth(array $ring): float
    {
        [$a, $b] = [$ring[0], $ring[intdiv(count($ring), 2)]];

        return hypot($b[0] - $a[0], $b[1] - $a[1]);
    }
}
