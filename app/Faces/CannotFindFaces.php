<?php

declare(strict_types=1);

namespace App\Faces;

final class CannotFindFaces extends \RuntimeException {}
