<?php

declare(strict_types=1);

namespace App\Faces;

class CannotFindFaces extends \RuntimeException {}
