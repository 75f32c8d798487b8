<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\Jail;
use App\Work\Patience;
use Illuminate\Database\QueryException;
use Symfony\Component\Process\Process;

/** What is started for foreign files is bounded, and sees what it is given. */
final class JailTest extends AppTestCase
{
    public function test_time_memory_and_files_are_bounded(): void
    {
        config(['limits.ffmpeg' => ['memory_bytes' => 512 * 1024 ** 2, 'cpu_seconds' => 7, 'file_bytes' => 2048 * 1024]]);
        self::assertSame("7\n524288\n2048", $this->said(['bash', '-c', 'ulimit -t; ulimit -v; echo $(($(ulimit -f) * 1024 / 1024))']));
    }

    public function test_it_sees_only_what_it_is_given_and_no_network(): void
    {
        if (!Jail::isOffered()) {
            self::markTestSkipped('The system does not let us build a jail.');
        }
        file_put_contents("{$this->folder}/given", 'given');
        file_put_contents("{$this->folder}/other", 'other');
        mkdir("{$this->folder}/out");
        $look = 'cat "$0/given"; cat "$0/other" /etc/hostname 2>/dev/null; echo new > "$0/given" 2>/dev/null; echo made > "$0/out/made"; ls /sys/class/net 2>/dev/null; cat /proc/net/route 2>/dev/null | wc -l; echo ${APP_KEY:-none}';
        self::assertMatchesRegularExpression('/^given[01]\nnone$/', $this->said(['bash', '-c', "{$look} 2>/dev/null", $this->folder], ["{$this->folder}/given"], ["{$this->folder}/out"]));
        self::assertSame('made', trim((string) file_get_contents("{$this->folder}/out/made")));
        self::assertSame('given', file_get_contents("{$this->folder}/given"));
    }

    public function test_a_locked_database_is_waited_for_and_other_failures_are_not(): void
    {
        $work = new class {
            public ?int $delay = null;

            public function release(int $seconds): void
            {
                $this->delay = $seconds;
            }
        };
        $locked = new QueryException('sqlite', 'update', [], new \PDOException('SQLSTATE[HY000]: General error: 5 database is locked'));
        (new Patience())->handle($work, static fn() => throw $locked);
        self::assertSame(2, $work->delay);
        Patience::note(static fn() => throw $locked);
        $this->expectException(QueryException::class);
        (new Patience())->handle($work, static fn() => throw new QueryException('sqlite', 'update', [], new \PDOException('no such table')));
    }

    /**
     * @param list<string> $command
     * @param list<string> $reads
     * @param list<string> $writes
     */
    private function said(array $command, array $reads = [], array $writes = []): string
    {
        return trim((new Process(Jail::around($command, $reads, $writes), timeout: 20))->mustRun()->getOutput());
    }
}
