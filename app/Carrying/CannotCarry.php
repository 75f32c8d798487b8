<?php

declare(strict_types=1);

namespace App\Carrying;

final class CannotCarry extends \DomainException {}
