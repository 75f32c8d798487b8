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
        config(['limits.ffmpeg.memory_bytes' => 512 * 1024 ** 2, 'limits.ffmpeg.cpu_seconds.read' => 7, 'limits.ffmpeg.file_bytes' => 2048 * 1024]);
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

    public function test_it_knows_nothing_of_what_is_around_it_and_may_do_nothing_there(): void
    {
        putenv('SECRET_OF_THE_SERVER=a secret');
        self::assertSame('nothing', $this->said(['bash', '-c', 'cat /proc/*/environ 2>/dev/null | grep -qa SECRET_OF && echo all || echo nothing']));
        if (!Jail::isOffered()) {
            self::markTestSkipped('The system does not let us build a jail.');
        }
        config(['limits.ffmpeg.temporary_bytes' => 1024 ** 2]);
        self::assertSame('nothing', $this->said(['bash', '-c', 'cat /proc/1/environ | grep -qa SECRET_OF && echo all || echo nothing']));
        self::assertSame("CapEff:\t0000000000000000\nCapBnd:\t0000000000000000", $this->said(['grep', '-E', 'CapEff|CapBnd', '/proc/self/status']));
        self::assertLessThanOrEqual(1024 ** 2, (int) $this->said(['bash', '-c', 'head -c 5000000 /dev/zero > /tmp/x 2>/dev/null; stat -c %s /tmp/x']));
        $filter = is_readable('/usr/share/doc/bubblewrap/examples/flatpak.bpf') && php_uname('m') === 'x86_64';
        self::assertSame($filter ? "Seccomp:\t2" : "Seccomp:\t0", $this->said(['grep', '-E', 'Seccomp:', '/proc/self/status']));
        $filter && self::assertSame('refused', $this->said(['bash', '-c', 'unshare -U true 2>/dev/null && echo made || echo refused']));
        config(['limits.ffmpeg.processes' => 20]);
        self::assertSame('20', $this->said(['bash', '-c', 'ulimit -u']));
    }

    public function test_the_limit_of_processes_holds_for_whoever_is_not_root(): void
    {
        config(['limits.ffmpeg.processes' => 20]);
        $many = Jail::around(['bash', '-c', 'for i in $(seq 40); do sleep 2 2>/dev/null & done 2>/dev/null; jobs -r | wc -l'], [], []);
        $process = new Process([...(posix_geteuid() === 0 ? ['setpriv', '--reuid', '65534', '--regid', '65534', '--clear-groups'] : []), ...$many], timeout: 20);
        if (!Jail::isOffered() || ($process->run() !== 0 && str_contains($process->getErrorOutput(), 'namespace'))) {
            self::markTestSkipped('The system does not let us build a jail.');
        }
        self::assertLessThan(21, (int) $process->getOutput());
    }

    public function test_what_takes_all_its_processor_time_is_told_so_and_not_tried_again(): void
    {
        $film = $this->film('long.mkv', ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p'], '1280x720', 1500);
        config(['limits.ffmpeg.cpu_seconds.read' => 1]);
        try {
            \App\Footage\Ffmpeg::probe($film, ['-show_entries', 'frame=pts'], 60);
            self::fail('It was read.');
        } catch (\App\Footage\UnreadableFootage $reason) {
            self::assertSame(\App\Footage\UnreadableFootage::tookTooLong()->getMessage(), $reason->getMessage());
        }
        $this->expectExceptionMessage('ffmpeg took too long and was stopped.');
        \App\Footage\Ffmpeg::run(['-i', $film, '-vf', 'scale=3840:-1', '-f', 'null', '-'], [$film], [], work: 'read');
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
