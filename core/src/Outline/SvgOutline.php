<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\OutlineReader;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Shape;

/** An outline as an SVG document and back: paths as the outline stands on a frame, in pixels of the footage. */
final class SvgOutline
{
    /** The distance of a Bézier handle that makes a quarter circle. */
    private const QUARTER = 0.5522847498307936;
    private const MOST = 100;
    /** Picture heights from the corner of the picture. */
    private const FURTHEST = 20.0;
    private const LONGEST_TRANSFORM = 10_000;

    /**
     * @param list<array{Shape, Pose}> $shapes with their values on the frame; another area's matte has no path and is left out
     */
    public static function write(array $shapes, int $width, int $height): string
    {
        $paths = '';
        foreach ($shapes as [$shape, $pose]) {
            $points = self::points($shape);
            if ($points === null) {
                continue;
            }
            $points = $pose->path($points);
            $motion = Matrix::of([$height, 0, 0, 0, $height, 0, 0, 0, 1])->times($pose->motion);
            $d = SvgPath::write(array_map(static fn(PathPoint $p): PathPoint => $p->moved($motion), $points));
            $paths .= sprintf(
                "  <path id=\"%s\" data-join=\"%s\" fill=\"#fff\" fill-rule=\"evenodd\" d=\"%s\"/>\n",
                $shape->id,
                $shape->join->value,
                $d,
            );
        }

        $size = "width=\"{$width}\" height=\"{$height}\" viewBox=\"0 0 {$width} {$height}\"";

        return "<svg xmlns=\"http://www.w3.org/2000/svg\" {$size}>\n{$paths}</svg>\n";
    }

    /**
     * The closed paths of a document, in picture heights: its view box is laid over the picture, top to bottom.
     *
     * @return list<list<PathPoint>>
     *
     * @throws \DomainException saying what is wrong with the document
     */
    public static function read(string $svg): array
    {
        $document = new \DOMDocument();
        $told = libxml_use_internal_errors(true);
        $loaded = $svg !== '' && !str_contains($svg, '<!ENTITY') && $document->loadXML($svg, LIBXML_NONET);
        libxml_clear_errors();
        libxml_use_internal_errors($told);
        $root = $document->documentElement;
        if (!$loaded || $root === null || $root->localName !== 'svg') {
            throw new \DomainException('This is no SVG document.');
        }
        $box = preg_split('/[\s,]+/', trim($root->getAttribute('viewBox'))) ?: [];
        [$x, $y, $h] = count($box) === 4 && (float) $box[3] > 0
            ? [(float) $box[0], (float) $box[1], (float) $box[3]]
            : [0.0, 0.0, (float) $root->getAttribute('height')];
        if ($h <= 0) {
            throw new \DomainException('The SVG document says neither a view box nor a height.');
        }
        try {
            $paths = self::children($root, Matrix::of([1 / $h, 0, -$x / $h, 0, 1 / $h, -$y / $h, 0, 0, 1]));
        } catch (\InvalidArgumentException) {
            throw self::beyond();
        }
        if ($paths === []) {
            throw new \DomainException('There is no closed path in this SVG document.');
        }

        $paths = array_slice($paths, 0, self::MOST);
        foreach ($paths as $path) {
            self::check($path);
        }

        return $paths;
    }

    private static function beyond(): \DomainException
    {
        return new \DomainException('A path lies far outside the picture: its numbers or its transform cannot be meant so.');
    }

    /** @param list<PathPoint> $path */
    private static function check(array $path): void
    {
        if (count($path) > OutlineReader::MAX_POINTS) {
            throw new \DomainException(sprintf('A path has %d points; at most %d can be taken.', count($path), OutlineReader::MAX_POINTS));
        }
        foreach ($path as $p) {
            foreach ([$p->x, $p->y, $p->inX, $p->inY, $p->outX, $p->outY] as $v) {
                if (is_nan($v) || abs($v) > self::FURTHEST) {
                    throw self::beyond();
                }
            }
        }
    }

    /** @return list<PathPoint>|null the shape as a path; null where it is another area's matte */
    public static function points(Shape $shape): ?array
    {
        return match (true) {
            $shape instanceof Path => $shape->points,
            $shape instanceof Ellipse => self::rounded($shape->centre, $shape->radii, $shape->radii, $shape->turn),
            $shape instanceof Box => self::rounded(
                $shape->centre,
                $shape->radii,
                array_fill(0, 2, $shape->round * min($shape->radii)),
                $shape->turn,
            ),
            default => null,
        };
    }

    /** @return list<list<PathPoint>> */
    private static function children(\DOMElement $parent, Matrix $motion): array
    {
        $paths = [];
        foreach ($parent->childNodes as $node) {
            if (!$node instanceof \DOMElement || in_array($node->localName, ['defs', 'clipPath', 'mask', 'symbol', 'pattern'], true)) {
                continue;
            }
            $here = $motion->times(self::transform($node->getAttribute('transform')));
            $number = static fn(string $name): float => (float) $node->getAttribute($name);
            $found = match ($node->localName) {
                'g', 'svg', 'a' => self::children($node, $here),
                'path' => SvgPath::read($node->getAttribute('d'), $here),
                'polygon', 'polyline' => SvgPath::read('M' . $node->getAttribute('points') . 'Z', $here),
                'circle' => [self::moved(
                    self::rounded([$number('cx'), $number('cy')], [$number('r'), $number('r')], [$number('r'), $number('r')], 0.0),
                    $here,
                )],
                'ellipse' => [self::moved(
                    self::rounded([$number('cx'), $number('cy')], [$number('rx'), $number('ry')], [$number('rx'), $number('ry')], 0.0),
                    $here,
                )],
                'rect' => [self::moved(self::rounded(
                    [$number('x') + $number('width') / 2, $number('y') + $number('height') / 2],
                    [$number('width') / 2, $number('height') / 2],
                    [$number('rx'), $number('ry') ?: $number('rx')],
                    0.0,
                ), $here)],
                default => [],
            };
            array_push($paths, ...$found);
        }

        return $paths;
    }

    /**
     * @param list<PathPoint> $points
     *
     * @return list<PathPoint>
     */
    private static function moved(array $points, Matrix $motion): array
    {
        return array_map(static fn(PathPoint $p): PathPoint => $p->moved($motion), $points);
    }

    private static function transform(string $text): Matrix
    {
        $motion = Matrix::identity();
        if (strlen($text) > self::LONGEST_TRANSFORM) {
            throw new \DomainException('A transform is longer than any that is meant.');
        }
        preg_match_all('/(\w+)\s*\(([^)]*)\)/', $text, $calls, PREG_SET_ORDER);
        foreach ($calls as [, $name, $list]) {
            $v = array_map(floatval(...), preg_split('/[\s,]+/', trim($list)) ?: []);
            $motion = $motion->times(match ($name) {
                'translate' => Matrix::move($v[0], $v[1] ?? 0.0),
                'scale' => Matrix::of([$v[0], 0, 0, 0, $v[1] ?? $v[0], 0, 0, 0, 1]),
                'rotate' => Matrix::about($v[1] ?? 0.0, $v[2] ?? 0.0, $v[0], 1, 1),
                'matrix' => Matrix::of([$v[0], $v[2] ?? 0, $v[4] ?? 0, $v[1] ?? 0, $v[3] ?? 1, $v[5] ?? 0, 0, 0, 1]),
                'skewX' => Matrix::of([1, tan(deg2rad($v[0])), 0, 0, 1, 0, 0, 0, 1]),
                'skewY' => Matrix::of([1, 0, 0, tan(deg2rad($v[0])), 1, 0, 0, 0, 1]),
                default => Matrix::identity(),
            });
        }

        return $motion;
    }

    /**
     * A rectangle with elliptic corners as a path; with corners as large as itself, an ellipse.
     *
     * @param array{float, float} $centre
     * @param array{float, float} $radii
     * @param array{float, float} $corner
     *
     * @return list<PathPoint>
     */
    private static function rounded(array $centre, array $radii, array $corner, float $turn): array
    {
        [$rx, $ry] = [min($corner[0], $radii[0]), min($corner[1], $radii[1])];
        $kx = self::QUARTER * $rx;
        $ky = self::QUARTER * $ry;
        [$w, $h] = $radii;
        $points = [];
        foreach ([[1, 1], [-1, 1], [-1, -1], [1, -1]] as $quarter => [$sx, $sy]) {
            // The two ends of a corner: the one on the upright side, the one on the level side, in the order of the way round.
            $upright = new PathPoint($sx * $w, $sy * ($h - $ry), outY: $sy * $ky);
            $level = new PathPoint($sx * ($w - $rx), $sy * $h, inX: $sx * $kx);
            if ($quarter % 2 === 1) {
                $upright = new PathPoint($sx * $w, $sy * ($h - $ry), inY: $sy * $ky);
                $level = new PathPoint($sx * ($w - $rx), $sy * $h, outX: $sx * $kx);
            }
            array_push($points, ...($quarter % 2 === 0 ? [$upright, $level] : [$level, $upright]));
        }
        $place = Matrix::move(...$centre)->times(Matrix::about(0, 0, $turn, 1, 1));

        return array_map(static fn(PathPoint $p): PathPoint => $p->moved($place), self::joined($points));
    }

    /**
     * Points on top of each other made one.
     *
     * @param list<PathPoint> $points
     *
     * @return list<PathPoint>
     */
    private static function joined(array $points): array
    {
        $joined = [];
        foreach ($points as $p) {
            $last = $joined[count($joined) - 1] ?? null;
            if ($last !== null && hypot($p->x - $last->x, $p->y - $last->y) < 1e-9) {
                array_pop($joined);
                $p = new PathPoint(
                    $p->x,
                    $p->y,
                    $last->inX ?: $p->inX,
                    $last->inY ?: $p->inY,
                    $last->outX ?: $p->outX,
                    $last->outY ?: $p->outY,
                );
            }
            $joined[] = $p;
        }
        $first = $joined[0];
        $last = $joined[count($joined) - 1];
        if (count($joined) > 2 && hypot($first->x - $last->x, $first->y - $last->y) < 1e-9) {
            array_pop($joined);
            $joined[0] = new PathPoint(
                $first->x,
                $first->y,
                $last->inX ?: $first->inX,
                $last->inY ?: $first->inY,
                $first->outX ?: $last->outX,
                $first->outY ?: $last->outY,
            );
        }

        return $joined;
    }
}
