<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\NoAssets;
use Cossel\Core\Touch\Site;

/**
 * What base and finish do to each colour, as a look-up table over R'G'B' 0..1: exactly what the renderer makes of a pixel of that
 * colour outside every area. What hangs on other pixels cannot be in a table; it is named.
 */
final readonly class BakedCube
{
    /** @param list<string> $left sentences, without their stops, saying what is not in the table or only as on one frame */
    private function __construct(public Cube $cube, public array $left) {}

    /**
     * @param int $number frame on which keyed values are taken
     * @param int $size   entries along an axis, 2 to 129
     */
    public static function of(
        Recipe $recipe,
        FrameFormat $format,
        int $number,
        int $size,
        string $title,
        Assets $assets = new NoAssets(),
    ): self {
        $small = $format->sized(1, 1);
        $site = new Site($number, new Frame($small, str_repeat("\0", $small->bytes())), $assets);
        $touches = [...$recipe->base, ...$recipe->finish];
        $acts = $left = [];
        foreach ($touches as $touch) {
            $act = Act::of([$touch], $recipe->assets, $site)[0] ?? null;
            if ($act === null) {
                continue;
            }
            if (!$act->isPointwise()) {
                $left[] = "{$touch->kind->name()} looks at other pixels and is not in this table";
                continue;
            }
            $acts[] = $act;
            if (self::moves($touch, $recipe)) {
                $left[] = "{$touch->kind->name()} changes over time and is as on frame {$number}";
            }
        }
        if ($recipe->areas !== []) {
            $left[] = 'what areas do is not in this table';
        }
        $planes = self::lattice($size);
        foreach ($acts as $act) {
            (new FrameStage($act, $planes->rect))->apply($planes, $planes->rect);
        }
        $table = [];
        foreach ($planes->r as $i => $red) {
            array_push($table, $red, $planes->g[$i], $planes->b[$i]);
        }

        return new self(Cube::of($title, $size, $table), $left);
    }

    /** Every entry's colour as a pixel, red changing fastest. */
    private static function lattice(int $size): Planes
    {
        $planes = Planes::filled(Rect::of(0, 0, $size * $size, $size), 0.0, 0.0, 0.0);
        for ($i = 0, $n = $size ** 3, $last = $size - 1; $i < $n; ++$i) {
            $planes->r[$i] = $i % $size / $last;
            $planes->g[$i] = intdiv($i, $size) % $size / $last;
            $planes->b[$i] = intdiv($i, $size * $size) / $last;
        }

        return $planes;
    }

    /** Whether it is another on the first or last frame of any of its keys. */
    private static function moves(Touch $touch, Recipe $recipe): bool
    {
        [$from, $to] = $recipe->source->span;
        $at = static fn(int $frame): array => [$touch->amount->at($frame), $touch->values($frame)];
        $first = $at($from);
        for ($frame = $from + 1; $frame <= $to; ++$frame) {
            if ($at($frame) !== $first) {
                return true;
            }
        }

        return false;
    }
}
