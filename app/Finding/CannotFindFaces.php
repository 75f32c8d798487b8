<?php

declare(strict_types=1);

namespace App\Finding;

final class CannotFindFaces extends \RuntimeException {}
