<?php

declare(strict_types=1);

namespace Tests\App;

use App\Server\Turns;
use App\Server\WaitingRequest;
use PHPUnit\Framework\TestCase;
use React\EventLoop\Loop;
use React\Socket\ConnectionInterface;
use React\Socket\UnixConnector;
use React\Socket\UnixServer;

/** The queue before the processes that make pictures, with processes that answer when they are told to. */
final class TurnsTest extends TestCase
{
    private string $folder;
    /** @var list<array{string, ConnectionInterface}> what reached a process, in order */
    private array $reached = [];
    /** @var array<string, ConnectionInterface> the web server's end of each request */
    private array $asked = [];
    /** @var array<string, string> what came back */
    private array $answers = [];
    /** @var list<UnixServer> */
    private array $servers = [];

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/turns-' . bin2hex(random_bytes(4));
        mkdir($this->folder);
        $process = new UnixServer("{$this->folder}/process");
        $process->on('connection', function (ConnectionInterface $connection): void {
            $connection->once('data', function (string $bytes) use ($connection): void {
                $this->reached[] = [substr($bytes, -2), $connection];
            });
        });
        $this->servers = [$process, (new Turns("{$this->folder}/process", 1))->listen("{$this->folder}/turns")];
    }

    protected function tearDown(): void
    {
        array_map(static fn(UnixServer $server) => $server->close(), $this->servers);
        array_map(static fn(ConnectionInterface $connection) => $connection->close(), $this->asked);
        array_map(static fn(array $reached) => $reached[1]->close(), $this->reached);
        self::pass();
        array_map(unlink(...), glob("{$this->folder}/*") ?: []);
        rmdir($this->folder);
    }

    public function test_parameters_are_read_as_they_come_in_pieces(): void
    {
        $long = str_repeat('x', 300);
        $bytes = self::request(['HTTP_X_BENCH' => 'b1', 'QUERY_STRING' => '', 'HTTP_COOKIE' => $long]);
        self::assertSame(['HTTP_X_BENCH' => 'b1', 'QUERY_STRING' => '', 'HTTP_COOKIE' => $long], WaitingRequest::params($bytes));
        for ($length = 0; $length < strlen($bytes); ++$length) {
            self::assertNull(WaitingRequest::params(substr($bytes, 0, $length)));
        }
    }

    public function test_each_bench_has_its_newest_first_and_benches_take_turns(): void
    {
        foreach (['a1', 'a2', 'a3', 'b1', 'a4', 'b2', 'c1'] as $name) {
            $this->ask($name);
        }
        self::assertSame(['a1'], $this->names());
        foreach (range(1, 6) as $_) {
            $this->answer();
        }
        self::assertSame(['a1', 'a4', 'b2', 'c1', 'a3', 'b1', 'a2'], $this->names());
        self::assertSame('picture of a1', $this->answers['a1']);
    }

    public function test_what_nobody_waits_for_any_more_is_never_passed_on(): void
    {
        foreach (['a1', 'a2', 'a3', 'b1'] as $name) {
            $this->ask($name);
        }
        $this->asked['a3']->close();
        $this->asked['b1']->close();
        self::pass();
        $this->answer();
        $this->answer();
        self::assertSame(['a1', 'a2'], $this->names());
    }

    public function test_the_place_of_one_that_hung_up_is_free_only_once_its_process_is_done(): void
    {
        $this->ask('a1');
        $this->ask('a2');
        $this->asked['a1']->close();
        self::pass();
        self::assertSame(['a1'], $this->names());
        $this->answer();
        self::assertSame(['a1', 'a2'], $this->names());
    }

    public function test_a_bench_that_asks_for_too_much_loses_its_oldest(): void
    {
        foreach (range(10, 80) as $n) {
            $this->ask("a{$n}");
        }
        self::assertFalse($this->asked['a11']->isWritable());
        self::assertTrue($this->asked['a80']->isWritable());
    }

    private function ask(string $name): void
    {
        (new UnixConnector())->connect("unix://{$this->folder}/turns")->then(function (ConnectionInterface $connection) use ($name): void {
            $this->asked[$name] = $connection;
            $this->answers[$name] = '';
            $connection->on('data', function (string $bytes) use ($name): void {
                $this->answers[$name] .= $bytes;
            });
            $connection->write(self::request(['HTTP_X_BENCH' => $name[0]]) . substr($name, 0, 1) . substr($name, -1));
        });
        self::pass();
    }

    private function answer(): void
    {
        [$name, $process] = $this->reached[count($this->reached) - 1];
        $process->end("picture of {$name}");
        self::pass();
    }

    /** @return list<string> */
    private function names(): array
    {
        return array_column($this->reached, 0);
    }

    /** Goes round so often that all that was written is read, however slow the machine is. */
    private static function pass(int $rounds = 10): void
    {
        $next = static function () use (&$next, &$rounds): void {
            --$rounds > 0 ? Loop::addTimer(0.002, $next) : Loop::stop();
        };
        Loop::addTimer(0.002, $next);
        Loop::run();
    }

    /** @param array<string, string> $params */
    private static function request(array $params): string
    {
        $pairs = '';
        foreach ($params as $name => $value) {
            $pairs .= chr(strlen($name)) . (strlen($value) > 127 ? pack('N', strlen($value) | 0x80000000) : chr(strlen($value))) . $name . $value;
        }
        $record = static fn(int $type, string $content): string => pack('CCnnCC', 1, $type, 1, strlen($content), 0, 0) . $content;

        return $record(1, pack('nCx5', 1, 0)) . $record(4, substr($pairs, 0, 5)) . $record(4, substr($pairs, 5)) . $record(4, '');
    }
}
