<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Rect;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;

/**
 * For what the colours of an area tell, where what acts then computes each pixel from itself alone. Such measures are the
 * same from means of blocks as from every pixel, so a large area is looked at in some hundred thousand of them.
 */
abstract readonly class ColourSurvey implements Survey
{
    private const MOST = 400_000;

    public function __construct(protected Site $site) {}

    public function sees(): Rect
    {
        return $this->site->bounds();
    }

    public function block(): int
    {
        return max(1, (int) ceil(sqrt($this->sees()->count() / self::MOST)));
    }

    public function needs(Rect $rect): Rect
    {
        return $rect;
    }
}
