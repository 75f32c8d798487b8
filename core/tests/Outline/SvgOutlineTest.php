<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\ContourMatte;
use Cossel\Core\Outline\EllipseMatte;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\SvgOutline;
use Cossel\Core\Outline\SvgPath;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class SvgOutlineTest extends TestCase
{
    /** @return list<float> */
    private static function drawn(PathPoint ...$points): array
    {
        return ContourMatte::on(new Path('s', array_values($points)), Pose::still(), 100)->matte(Rect::of(0, 0, 178, 100))->v;
    }

    public function test_a_path_written_and_read_again_is_the_same(): void
    {
        $points = [new PathPoint(0.25, 0.25, -0.05, 0.1, 0.2, -0.1), new PathPoint(1.25, 0.375), new PathPoint(0.75, 0.875, 0.125, 0, -0.25, 0)];
        $svg = SvgOutline::write([[new Path('s', $points), Pose::still()]], 1600, 800);
        $read = SvgOutline::read($svg);
        self::assertCount(1, $read);
        foreach ($points as $i => $p) {
            foreach (get_object_vars($p) as $name => $value) {
                self::assertEqualsWithDelta($value, $read[0][$i]->{$name}, 1e-5, $name);
            }
        }
    }

    public function test_ellipses_and_boxes_become_paths_that_draw_the_same(): void
    {
        $ellipse = new Ellipse('s', [0.8, 0.5], [0.4, 0.25], 25);
        $box = new Box('b', [0.8, 0.5], [0.5, 0.3], -15, 0.4);
        $drawn = [
            EllipseMatte::on($ellipse, Matrix::identity(), 100)->matte(Rect::of(0, 0, 178, 100))->v,
            ContourMatte::on($box, Pose::still(), 100)->matte(Rect::of(0, 0, 178, 100))->v,
        ];
        foreach ([$ellipse, $box] as $k => $shape) {
            $path = self::drawn(...SvgOutline::points($shape) ?? []);
            foreach ($drawn[$k] as $i => $v) {
                self::assertEqualsWithDelta($v, $path[$i], 0.04);
            }
        }
    }

    /** @return iterable<string, array{string, string}> */
    public static function spellings(): iterable
    {
        yield 'relative' => ['M20 10 L80 10 L80 60 L20 60 Z', 'm20,10 60,0 0,50 -60,0z'];
        yield 'level and upright' => ['M20 10 L80 10 L80 60 L20 60 Z', 'M20 10H80V60H20Z'];
        yield 'smooth' => ['M10 50 C10 20 40 20 40 50 C40 80 70 80 70 50 Z', 'M10 50C10 20 40 20 40 50S70 80 70 50Z'];
        yield 'quadratic' => ['M10 50 C30 16.6666667 50 16.6666667 70 50 Z', 'M10 50Q40 0 70 50Z'];
        yield 'half circle by an arc' => ['M20 50 C20 33.4314575 33.4314575 20 50 20 C66.5685425 20 80 33.4314575 80 50 Z', 'M20 50A30 30 0 0180 50Z'];
    }

    #[DataProvider('spellings')]
    public function test_all_spellings_of_path_data_are_understood(string $plain, string $other): void
    {
        $unit = Matrix::of([0.01, 0, 0, 0, 0.01, 0, 0, 0, 1]);
        $a = self::drawn(...SvgPath::read($plain, $unit)[0]);
        $b = self::drawn(...SvgPath::read($other, $unit)[0]);
        foreach ($a as $i => $v) {
            self::assertEqualsWithDelta($v, $b[$i], 0.01);
        }
        self::assertGreaterThan(100, array_sum($a));
    }

    public function test_groups_and_transforms_carry_their_shapes(): void
    {
        $svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100"><g transform="translate(50 0)"><rect x="-10" y="-10" width="20" height="20" transform="translate(20 50) rotate(90) scale(2 1)"/></g></svg>';
        [$points] = SvgOutline::read($svg);
        self::assertEqualsWithDelta(0.6, min(array_column($points, 'x')), 1e-9);
        self::assertEqualsWithDelta(0.8, max(array_column($points, 'x')), 1e-9);
        self::assertEqualsWithDelta(0.3, min(array_column($points, 'y')), 1e-9);
        self::assertEqualsWithDelta(0.7, max(array_column($points, 'y')), 1e-9);
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'text' => ['hello', 'This is no SVG document.'];
        yield 'entities' => ['<!DOCTYPE svg [<!ENTITY a "b">]><svg/>', 'This is no SVG document.'];
        yield 'no size' => ['<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L1 0L1 1Z"/></svg>', 'neither a view box nor a height'];
        yield 'nothing closed' => ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><text>a</text></svg>', 'no closed path'];
        yield 'broken data' => ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0L1 x"/></svg>', '“x” where a command or a number was expected'];
    }

    #[DataProvider('wrong')]
    public function test_what_cannot_be_read_is_told_in_words(string $svg, string $message): void
    {
        $this->expectException(\DomainException::class);
        $this->expectExceptionMessage($message);
        SvgOutline::read($svg);
    }

    /** @return iterable<string, array{string, string}> */
    public static function hostile(): iterable
    {
        yield 'a scale beyond all measure' => ['<rect width="1" height="1" transform="scale(1e300)"/>', 'far outside'];
        yield 'scales that multiply' => ['<rect width="1" height="1" transform="' . str_repeat('scale(1e200) ', 5) . '"/>', 'far outside'];
        yield 'numbers of a thousand digits' => ['<path d="M0 0L' . str_repeat('9', 1000) . ' 1L1 1Z"/>', 'far outside'];
        yield 'more points than a path can have' => ['<path d="M0 0' . str_repeat('L1 1L2 0', 30_000) . 'Z"/>', 'at most 500'];
        yield 'a transform without end' => ['<rect width="1" height="1" transform="' . str_repeat('scale(1) ', 2000) . '"/>', 'longer than any'];
    }

    #[DataProvider('hostile')]
    public function test_what_cannot_be_meant_is_refused(string $inside, string $reason): void
    {
        $this->expectException(\DomainException::class);
        $this->expectExceptionMessage($reason);
        SvgOutline::read("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 100 100\">{$inside}</svg>");
    }

    public function test_arcs_without_length_are_straight(): void
    {
        foreach (['M0 0A5 5 0 1 1 1e-200 0L9 9L0 9Z', 'M0 0A1e-200 1e-200 0 0 1 5 5L0 9Z', 'M0 0A5 5 0 0 0 1e-17 1e-17L5 5L5 0Z'] as $d) {
            foreach (SvgPath::read($d, Matrix::identity())[0] as $p) {
                self::assertTrue(is_finite($p->x + $p->y + $p->inX + $p->inY + $p->outX + $p->outY), $d);
            }
        }
    }
}
