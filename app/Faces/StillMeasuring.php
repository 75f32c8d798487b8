<?php

declare(strict_types=1);

namespace App\Faces;

/** What is asked for is known once more frames are measured; some were just now, so asking again brings it nearer. */
final class StillMeasuring extends CannotFindFaces {}
