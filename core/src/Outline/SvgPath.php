<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\PathPoint;

/**
 * Paths as SVG writes them (W3C SVG 2, section 9.3, path data) and back. Quadratic curves and arcs become cubic ones
 * (SVG 2, implementation notes B.2). An open run is closed by a straight piece, as filling it would.
 */
final class SvgPath
{
    /** @param list<PathPoint> $points */
    public static function write(array $points): string
    {
        $n = static fn(float $v): string => rtrim(rtrim(sprintf('%.3F', $v), '0'), '.');
        $at = static fn(float $x, float $y): string => "{$n($x)} {$n($y)}";
        $d = 'M' . $at($points[0]->x, $points[0]->y);
        foreach ($points as $i => $a) {
            $b = $points[($i + 1) % count($points)];
            $d .= $a->outX === 0.0 && $a->outY === 0.0 && $b->inX === 0.0 && $b->inY === 0.0
                ? 'L' . $at($b->x, $b->y)
                : 'C' . $at($a->x + $a->outX, $a->y + $a->outY) . ' ' . $at($b->x + $b->inX, $b->y + $b->inY) . ' ' . $at($b->x, $b->y);
        }

        return $d . 'Z';
    }

    /**
     * @param string $d      path data
     * @param Matrix $motion applied to every point
     *
     * @return list<list<PathPoint>> the closed runs of two points or more
     *
     * @throws \DomainException saying where the data cannot be read
     */
    public static function read(string $d, Matrix $motion): array
    {
        $runs = [];
        $run = [];
        $x = $y = $startX = $startY = $handleX = $handleY = 0.0;
        $last = '';
        $end = static function () use (&$runs, &$run): void {
            $n = count($run);
            if ($n > 1 && hypot($run[0]->x - $run[$n - 1]->x, $run[0]->y - $run[$n - 1]->y) < 1e-6) {
                // The way back to the start: one point with both handles.
                $run[0] = new PathPoint($run[0]->x, $run[0]->y, $run[$n - 1]->inX, $run[$n - 1]->inY, $run[0]->outX, $run[0]->outY);
                array_pop($run);
            }
            if (count($run) > 1) {
                $runs[] = $run;
            }
            $run = [];
        };
        $curve = static function (float $ax, float $ay, float $bx, float $by, float $tx, float $ty) use (&$run, &$x, &$y): void {
            $from = array_pop($run) ?? new PathPoint($x, $y);
            $run[] = new PathPoint($from->x, $from->y, $from->inX, $from->inY, $ax - $x, $ay - $y);
            $run[] = new PathPoint($tx, $ty, $bx - $tx, $by - $ty);
            [$x, $y] = [$tx, $ty];
        };
        foreach (self::commands($d) as [$letter, $v]) {
            $relative = ctype_lower($letter);
            $word = strtoupper($letter);
            [$ox, $oy] = $relative ? [$x, $y] : [0.0, 0.0];
            switch ($word) {
                case 'M':
                    $end();
                    [$x, $y] = [$ox + $v[0], $oy + $v[1]];
                    [$startX, $startY] = [$x, $y];
                    $run = [new PathPoint($x, $y)];
                    break;
                case 'L':
                    $curve($x, $y, $ox + $v[0], $oy + $v[1], $ox + $v[0], $oy + $v[1]);
                    break;
                case 'H':
                    $curve($x, $y, $ox + $v[0], $y, $ox + $v[0], $y);
                    break;
                case 'V':
                    $curve($x, $y, $x, $oy + $v[0], $x, $oy + $v[0]);
                    break;
                case 'C':
                    [$handleX, $handleY] = [$ox + $v[2], $oy + $v[3]];
                    $curve($ox + $v[0], $oy + $v[1], $handleX, $handleY, $ox + $v[4], $oy + $v[5]);
                    break;
                case 'S':
                    [$ax, $ay] = in_array($last, ['C', 'S'], true) ? [2 * $x - $handleX, 2 * $y - $handleY] : [$x, $y];
                    [$handleX, $handleY] = [$ox + $v[0], $oy + $v[1]];
                    $curve($ax, $ay, $handleX, $handleY, $ox + $v[2], $oy + $v[3]);
                    break;
                case 'Q':
                case 'T':
                    if ($word === 'Q') {
                        [$handleX, $handleY] = [$ox + $v[0], $oy + $v[1]];
                        [$tx, $ty] = [$ox + $v[2], $oy + $v[3]];
                    } else {
                        [$handleX, $handleY] = in_array($last, ['Q', 'T'], true) ? [2 * $x - $handleX, 2 * $y - $handleY] : [$x, $y];
                        [$tx, $ty] = [$ox + $v[0], $oy + $v[1]];
                    }
                    $curve(
                        $x + 2 / 3 * ($handleX - $x),
                        $y + 2 / 3 * ($handleY - $y),
                        $tx + 2 / 3 * ($handleX - $tx),
                        $ty + 2 / 3 * ($handleY - $ty),
                        $tx,
                        $ty,
                    );
                    break;
                case 'A':
                    foreach (self::arc($x, $y, $v, $ox + $v[5], $oy + $v[6]) as $c) {
                        $curve(...$c);
                    }
                    break;
                case 'Z':
                    $end();
                    [$x, $y] = [$startX, $startY];
                    $run = [new PathPoint($x, $y)];
            }
            $last = $word;
        }
        $end();

        return array_map(
            static fn(array $points): array => array_map(static fn(PathPoint $p): PathPoint => $p->moved($motion), $points),
            $runs,
        );
    }

    /** @return \Generator<int, array{string, list<float>}> */
    private static function commands(string $d): \Generator
    {
        $needs = ['M' => 2, 'L' => 2, 'H' => 1, 'V' => 1, 'C' => 6, 'S' => 4, 'Q' => 4, 'T' => 2, 'A' => 7, 'Z' => 0];
        if (preg_match_all('/([MLHVCSQTAZ])|([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)|([^\s,])/i', $d, $parts, PREG_SET_ORDER) === false) {
            return;
        }
        $letter = null;
        $numbers = [];
        $flags = static fn(string $letter, array $numbers): bool => strtoupper($letter) === 'A' && in_array(count($numbers), [3, 4], true);
        for ($i = 0, $n = count($parts); $i < $n; ++$i) {
            $part = $parts[$i];
            if (($part[3] ?? '') !== '') {
                throw new \DomainException("The path data has “{$part[3]}” where a command or a number was expected.");
            }
            if ($part[1] !== '') {
                if ($numbers !== []) {
                    throw new \DomainException("The path data has too few numbers before “{$part[1]}”.");
                }
                $letter = $part[1];
                if (strtoupper($letter) === 'Z') {
                    yield [$letter, []];
                    $letter = null;
                }
                continue;
            }
            if ($letter === null) {
                throw new \DomainException("The path data has a number, {$part[2]}, where a command was expected.");
            }
            $text = $part[2];
            if ($flags($letter, $numbers) && strlen($text) > 1) {
                // Flags of an arc may stand without a space behind them.
                $parts[$i][2] = substr($text, 1);
                --$i;
                $text = $text[0];
            }
            $numbers[] = (float) $text;
            if (count($numbers) === $needs[strtoupper($letter)]) {
                yield [$letter, $numbers];
                $numbers = [];
                // Further pairs after a move are lines.
                $letter = match ($letter) {
                    'M' => 'L', 'm' => 'l', default => $letter
                };
            }
        }
        if ($numbers !== []) {
            throw new \DomainException('The path data ends in the middle of a command.');
        }
    }

    /**
     * @param list<float> $v
     *
     * @return list<array{float, float, float, float, float, float}> cubic pieces: both handles and the end
     */
    private static function arc(float $x, float $y, array $v, float $tx, float $ty): array
    {
        [$rx, $ry] = [abs($v[0]), abs($v[1])];
        if ($rx == 0 || $ry == 0 || ($x === $tx && $y === $ty)) {
            return [[$x, $y, $tx, $ty, $tx, $ty]];
        }
        $c = cos(deg2rad($v[2]));
        $s = sin(deg2rad($v[2]));
        $u = $c * ($x - $tx) / 2 + $s * ($y - $ty) / 2;
        $w = -$s * ($x - $tx) / 2 + $c * ($y - $ty) / 2;
        $apart = $rx * $rx * $w * $w + $ry * $ry * $u * $u;
        // So near together, or so flat, that it is a straight line.
        if (!is_finite($apart) || $apart <= 1e-30) {
            return [[$x, $y, $tx, $ty, $tx, $ty]];
        }
        $grow = sqrt(max(1.0, ($u / $rx) ** 2 + ($w / $ry) ** 2));
        $rx *= $grow;
        $ry *= $grow;
        $k = sqrt(
            max(0.0, ($rx * $rx * $ry * $ry - $rx * $rx * $w * $w - $ry * $ry * $u * $u) / ($rx * $rx * $w * $w + $ry * $ry * $u * $u)),
        );
        $k *= ($v[3] != 0) === ($v[4] != 0) ? -1 : 1;
        $cu = $k * $rx * $w / $ry;
        $cw = -$k * $ry * $u / $rx;
        $from = atan2(($w - $cw) / $ry, ($u - $cu) / $rx);
        $turn = atan2((-$w - $cw) / $ry, (-$u - $cu) / $rx) - $from;
        if ($v[4] != 0 && $turn < 0) {
            $turn += 2 * M_PI;
        } elseif ($v[4] == 0 && $turn > 0) {
            $turn -= 2 * M_PI;
        }
        $cx = $c * $cu - $s * $cw + ($x + $tx) / 2;
        $cy = $s * $cu + $c * $cw + ($y + $ty) / 2;
        $n = max(1, (int) ceil(abs($turn) / (M_PI / 2) - 1e-9));
        $part = $turn / $n;
        $reach = 4 / 3 * tan($part / 4);
        $place = static fn(float $a, float $b): array => [$cx + $c * $rx * $a - $s * $ry * $b, $cy + $s * $rx * $a + $c * $ry * $b];
        $pieces = [];
        for ($i = 0; $i < $n; ++$i) {
            $a = $from + $i * $part;
            $b = $a + $part;
            $pieces[] = [
                ...$place(cos($a) - $reach * sin($a), sin($a) + $reach * cos($a)),
                ...$place(cos($b) + $reach * sin($b), sin($b) - $reach * cos($b)),
                ...($i === $n - 1 ? [$tx, $ty] : $place(cos($b), sin($b))),
            ];
        }

        return $pieces;
    }
}
