<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Colour;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Colour\InvalidCube;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CubeTest extends TestCase
{
    public function test_a_file_is_read_as_the_specification_has_it(): void
    {
        $cube = Cube::parse("# made by hand\r\nTITLE \"Warm\"\r\nLUT_1D_SIZE 2\r\nDOMAIN_MIN -1 0 0\r\nDOMAIN_MAX 2 1 1\r\n\r\n0 0 0\r\n1 0.9 8e-1\r\n");
        self::assertSame(['Warm', 2, false, [0.0, 0.0, 0.0, 1.0, 0.9, 0.8], [-1.0, 0.0, 0.0], [2.0, 1.0, 1.0]], [$cube->title, $cube->size, $cube->isCube, $cube->table, $cube->least, $cube->most]);
        self::assertTrue(Cube::parse("LUT_3D_SIZE 2\n" . str_repeat("0 0 0\n", 8))->isCube);
    }

    /** @return iterable<string, array{string, string}> */
    public static function broken(): iterable
    {
        yield 'empty' => ['', 'LUT_1D_SIZE or LUT_3D_SIZE'];
        yield 'no size before the table' => ["0 0 0\n", 'Line 1'];
        yield 'a size of one' => ["LUT_3D_SIZE 1\n", 'a size from 2'];
        yield 'a size beyond all bounds' => ["LUT_3D_SIZE 4000\n", 'a size from 2 to 129'];
        yield 'two numbers' => ["LUT_1D_SIZE 2\n0 0\n", 'Line 2 of the look-up table: expected three numbers'];
        yield 'a word' => ["LUT_1D_SIZE 2\n0 0 x\n", 'Line 2'];
        yield 'infinite' => ["LUT_1D_SIZE 2\n0 0 1e999\n", 'Line 2'];
        yield 'too few' => ["LUT_1D_SIZE 3\n0 0 0\n1 1 1\n", 'should have 3 entries by its size; it has 2'];
        yield 'a domain that ends before it begins' => ["LUT_1D_SIZE 2\nDOMAIN_MIN 1 0 0\n0 0 0\n1 1 1\n", 'domain'];
    }

    #[DataProvider('broken')]
    public function test_what_is_wrong_is_said_with_its_line(string $text, string $says): void
    {
        $this->expectException(InvalidCube::class);
        $this->expectExceptionMessage($says);
        Cube::parse($text);
    }
}
