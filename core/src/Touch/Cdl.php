<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;

/**
 * The ASC Color Decision List, version 1.2, on code values: slope, offset and power on each channel,
 * (v slope + offset)^power, then saturation about Y' with the BT.709 weights. As in its form without clamping, what is
 * below 0 keeps its value where the power would not be defined, and nothing is cut above 1.
 */
final class Cdl implements Kind
{
    use Neutral;
    use Pointwise;

    public const CHANNELS = ['Red', 'Green', 'Blue'];

    /** @var array{array<string, mixed>, list<Curve>}|null */
    private ?array $prepared = null;

    public function name(): string
    {
        return 'cdl';
    }

    public function parameters(): array
    {
        $parameters = [];
        foreach ([['slope', 0, 8, 1], ['offset', -1, 1, 0], ['power', 0.1, 8, 1]] as [$name, $least, $most, $neutral]) {
            foreach (self::CHANNELS as $channel) {
                $parameters[] = new Number($name . $channel, $least, $most, $neutral);
            }
        }

        return [...$parameters, new Number('saturation', 0, 4, 1)];
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        if ($this->prepared === null || $this->prepared[0] !== $values) {
            $curves = array_map(static fn(string $channel): Curve => Curve::of(static function (float $x) use ($values, $channel): float {
                $y = $x * $values["slope{$channel}"] + $values["offset{$channel}"];

                return $y < 0.0 ? $y : $y ** $values["power{$channel}"];
            }), self::CHANNELS);
            $this->prepared = [$values, $curves];
        }
        [$red, $green, $blue] = $this->prepared[1];
        $at = $weight->matte->rect;
        $stride = $planes->rect->width;
        for ($y = 0; $y < $at->height; ++$y) {
            $i = ($at->y - $planes->rect->y + $y) * $stride + $at->x - $planes->rect->x;
            self::row($planes->r, $planes->g, $planes->b, $i, $weight->matte->v, $y * $at->width, $at->width, $weight->offset, $weight->scale, $red->table, $green->table, $blue->table, $values['saturation']);
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $red
     * @param list<float> $green
     * @param list<float> $blue
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale, array $red, array $green, array $blue, float $saturation): void
    {
        $last = count($red) - 2;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $p = ($r[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $x = $red[$c] + ($red[$c + 1] - $red[$c]) * ($p - $c);
            $p = ($g[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $y = $green[$c] + ($green[$c + 1] - $green[$c]) * ($p - $c);
            $p = ($b[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $z = $blue[$c] + ($blue[$c + 1] - $blue[$c]) * ($p - $c);
            $luma = (1.0 - $saturation) * (0.2126 * $x + 0.7152 * $y + 0.0722 * $z);
            $r[$i] += ($luma + $saturation * $x - $r[$i]) * $k;
            $g[$i] += ($luma + $saturation * $y - $g[$i]) * $k;
            $b[$i] += ($luma + $saturation * $z - $b[$i]) * $k;
        }
    }
}
