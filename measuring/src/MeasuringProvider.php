<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use Cossel\Measuring\Fuzz\FuzzCommand;
use Illuminate\Support\ServiceProvider;

/** Adds the bench to the console, where development packages are installed. */
final class MeasuringProvider extends ServiceProvider
{
    public function boot(): void
    {
        $this->commands([Bench::class, FuzzCommand::class]);
    }
}
