<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Geometry;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use PHPUnit\Framework\TestCase;

final class ExtentTest extends TestCase
{
    public function test_it_moves_turns_and_grows_with_its_area(): void
    {
        $extent = new Extent(Matrix::about(0.5, 0.4, 90, 2, 2, 0.1, -0.05), 0.5, 0.4, 0.1, 0.06);
        self::assertEqualsWithDelta([0.6, 0.35], $extent->centre(), 1e-12);
        self::assertEqualsWithDelta([2.0, 90.0, 0.4, 0.16], [$extent->scale(), $extent->turn(), $extent->width(), $extent->radius()], 1e-9);
        // To the right in the outline is down now, and twice as far.
        self::assertEqualsWithDelta([0.0, 0.2], $extent->shift(0.1, 0.0), 1e-12);
        self::assertEqualsWithDelta([-0.2, 0.0], $extent->shift(0.0, 0.1), 1e-12);
    }

    public function test_under_perspective_a_matrix_acts_by_its_last_row_too(): void
    {
        $tipped = Matrix::of([1, 0, 0, 0, 1, 0, 0.5, 0, 1]);
        self::assertEqualsWithDelta([1 / 1.5, 0.5 / 1.5], $tipped->apply(1.0, 0.5), 1e-12);
    }
}
