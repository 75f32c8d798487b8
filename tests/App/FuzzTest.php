<?php

declare(strict_types=1);

namespace Tests\App;

use App\Bundles\BundleReader;
use App\Footage\FrameCache;
use App\Footage\ImageSequence;
use App\Footage\Probe;
use Cossel\Measuring\Fuzz\BundleFuzz;
use Cossel\Measuring\Fuzz\Dice;
use Cossel\Measuring\Fuzz\Fuzz;
use Cossel\Measuring\Fuzz\FuzzCommand;
use Cossel\Measuring\Fuzz\MediaFuzz;
use Cossel\Measuring\Fuzz\Playground;
use Cossel\Measuring\Fuzz\RecipeFuzz;
use Cossel\Measuring\Fuzz\RequestFuzz;
use Cossel\Measuring\Fuzz\Rows;
use Cossel\Measuring\Fuzz\TextFuzz;
use Cossel\Measuring\Fuzz\Texts;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Filesystem\Filesystem;

/** A short round of hostile input of every sort, with fixed seeds: those that once went wrong and the first few. `./cossel fuzz` is the long one. */
final class FuzzTest extends AppTestCase
{
    /** Seeds of cases that went wrong before what they found was mended. */
    private const ONCE = [
        'recipes' => [1741, 2687, 6281, 9365, 10455],
        'texts' => [121273, 121938, 124957, 126120, 138778],
        'media' => [],
        'bundles' => [1117, 3154],
        'requests' => [],
    ];

    public function test_recipes(): void
    {
        $this->try(new RecipeFuzz($this->app->make(Playground::class)->recipes()), 400);
    }

    public function test_texts(): void
    {
        $this->try(new TextFuzz(), 400);
    }

    public function test_media(): void
    {
        $this->try(new MediaFuzz($this->app->make(Probe::class), $this->app->make(ImageSequence::class), $this->app->make(FrameCache::class), new Filesystem(), $this->folder), 8);
    }

    public function test_requests(): void
    {
        $this->try(new RequestFuzz($this->app->make(Kernel::class), $this->app->make(Playground::class)->restore(...), $this->app->make(Rows::class), $this->app->make(Texts::class)), 150);
    }

    public function test_bundles(): void
    {
        $this->try(new BundleFuzz($this->app->make(BundleReader::class), $this->app->make(Playground::class)->restore(...), $this->app->make(Texts::class)), 20);
    }

    private function try(Fuzz $sort, int $cases): void
    {
        $wrong = [];
        foreach ([...self::ONCE[$sort->name()], ...range(1, $cases)] as $seed) {
            $reason = FuzzCommand::outcome($sort, new Dice($seed));
            if ($reason !== null) {
                $wrong[$seed] = "{$reason} {$sort->about()}";
            }
        }
        self::assertSame([], $wrong);
    }
}
