<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Shape;

/** Areas that do not move. */
final readonly class Still implements Poses
{
    private function __construct(private Pose $pose, private ?PeopleMatte $people = null) {}

    public static function matte(Outline $outline, Rect $frame, ?Pose $pose = null): AreaMatte
    {
        return AreaMatte::on(self::areaOf($outline), $outline->at, new self($pose ?? Pose::still()), $frame);
    }

    /** @param Frame $picture in which these people are seen */
    public static function crowd(Outline $outline, Frame $picture, PeopleMatte $people): AreaMatte
    {
        return AreaMatte::on(self::areaOf($outline), $outline->at, new self(Pose::still(), $people), $picture->format->rect(), $picture);
    }

    public static function areaOf(Outline $outline): Area
    {
        return new Area('a', 'A', 'other', null, true, $outline, new Motion(), new Live(0, 100), new Keyed(1.0), new BlinkGuard(), []);
    }

    public function pose(Area $area, Shape $shape, int $frame): Pose
    {
        return $this->pose;
    }

    public function people(Area $area, People $shape, int $frame): ?PeopleMatte
    {
        return $this->people;
    }

    public function area(string $id): Area
    {
        throw new \LogicException("No area {$id} here.");
    }
}
