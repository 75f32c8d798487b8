<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** Points that a smooth curve goes through, by rising x. None at all is the neutral curve. */
final readonly class Points extends Parameter
{
    public const MOST = 32;

    /**
     * @param array{float, float} $x least and most
     * @param array{float, float} $y least and most
     */
    public function __construct(string $name, public array $x, public array $y)
    {
        parent::__construct($name, []);
    }
}
