<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Outline\Place;
use Cossel\Core\Outline\Places;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Shape;

/** Areas that do not move. */
final readonly class Still implements Places
{
    private function __construct(private Place $place) {}

    public static function matte(Outline $outline, Rect $frame, ?Place $place = null): AreaMatte
    {
        return AreaMatte::on(self::areaOf($outline), $outline->at, new self($place ?? Place::still()), $frame);
    }

    public static function areaOf(Outline $outline): Area
    {
        return new Area('a', 'A', 'other', null, true, $outline, new Motion(), new Live(0, 100), new Keyed(1.0), new BlinkGuard(), []);
    }

    public function place(Area $area, Shape $shape, int $frame): Place
    {
        return $this->place;
    }

    public function area(string $id): Area
    {
        throw new \LogicException("No area {$id} here.");
    }
}
