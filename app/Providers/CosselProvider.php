<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\WritingConnector;
use App\Faces\FaceMeter;
use App\Faces\Faces;
use App\Footage\FrameCache;
use App\Footage\FrameReader;
use App\Pictures\PictureCache;
use App\Upkeep\Failures;
use App\Work\OutOfMemory;
use App\Work\WorkConnector;
use App\Work\WorkerLock;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Touch\Kinds;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Support\ServiceProvider;

final class CosselProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind('db.connector.sqlite', WritingConnector::class);
        $this->app->singleton(WorkerLock::class, static fn(): WorkerLock => new WorkerLock(config('filesystems.disks.data.root') . '/workers'));
        $this->app->singleton(Kinds::class, static fn(): Kinds => Kinds::all());
        $this->app->singleton(RecipeReader::class);
        $this->app->singleton(FrameCache::class, static fn(Application $app): FrameCache => new FrameCache($app->make(Filesystem::class), $app->make(FrameReader::class), config('cossel.cache.path') . '/frames', config('cossel.cache.frames_bytes'), config('cossel.cache.footage_bytes')));
        $this->app->singleton(Faces::class, static fn(Application $app): Faces => new Faces($app->make(Filesystem::class), $app->make(FaceMeter::class), config('cossel.cache.path') . '/faces', config('cossel.cache.faces_bytes')));
        $this->app->singleton(PictureCache::class, static fn(Application $app): PictureCache => new PictureCache($app->make(Filesystem::class), config('cossel.cache.path') . '/pictures', config('cossel.cache.pictures_bytes'), config('cossel.engine')));
    }

    public function boot(): void
    {
        JsonResource::withoutWrapping();
        Model::unguard();
        Model::preventSilentlyDiscardingAttributes();
        Failures::watch();
        $this->app->runningInConsole() && OutOfMemory::watch();
        $queue = $this->app->make('queue');
        $queue->addConnector('work', fn(): WorkConnector => $this->app->make(WorkConnector::class));
        // Between two pieces of work nothing is left open.
        $queue->looping(fn() => $this->app->make(FrameCache::class)->rest());
    }
}
