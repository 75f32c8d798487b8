<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;

/** The data of the first release instead of an empty database, as it was left. */
trait FirstRelease
{
    public function refreshDatabase(): void {}

    protected function setUp(): void
    {
        parent::setUp();
        (new Filesystem())->copyDirectory(__DIR__ . '/archive/first_release', "{$this->folder}/data");
        config(['database.connections.sqlite.database' => "{$this->folder}/data/cossel.sqlite"]);
        DB::purge();
        mkdir("{$this->folder}/data/footage");
        $this->prepare();
    }

    /** What a test needs besides. */
    abstract protected function prepare(): void;
}
