<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Work\Background;
use App\Work\Piece;
use App\Work\Queues;
use Illuminate\Support\Facades\DB;

/** Work that takes all the memory there is, in the middle of a transaction. */
final class HungryWork implements Piece
{
    use Background;

    public function __construct()
    {
        $this->onQueue(Queues::BENCH);
    }

    public function about(): string
    {
        return 'job 1';
    }

    public function what(): string
    {
        return 'Eating';
    }

    public function handle(): void
    {
        DB::transaction(static function (): void {
            Job::query()->update(['name' => 'Half']);
            for ($eaten = [];;) {
                $eaten[] = str_repeat('x', 1 << 20);
            }
        });
    }
}
