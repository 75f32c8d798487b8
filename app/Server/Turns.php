<?php

declare(strict_types=1);

namespace App\Server;

use React\Socket\ConnectionInterface;
use React\Socket\UnixConnector;
use React\Socket\UnixServer;

/**
 * The queue before the processes that make pictures. Connections of the web server come in one per request and are passed
 * on byte for byte, so many at a time as there are processes: of each bench its newest first, benches in turn. One that
 * hangs up while it waits is dropped, so that nothing is made that nobody waits for any more.
 */
final class Turns
{
    /** Requests of one bench that wait; beyond, the oldest is let go. */
    private const MOST_WAITING = 64;

    /** @var array<string, list<WaitingRequest>> by bench, oldest first; the bench whose turn is next comes first */
    private array $waiting = [];

    private int $busy = 0;

    public function __construct(private readonly string $to, private readonly int $atATime, private readonly UnixConnector $connector = new UnixConnector()) {}

    public function listen(string $at): UnixServer
    {
        @unlink($at);
        $server = new UnixServer($at);
        chmod($at, 0600);
        $server->on('connection', $this->take(...));

        return $server;
    }

    private function take(ConnectionInterface $connection): void
    {
        $request = new WaitingRequest($connection);
        $request->whenKnown(function () use ($request): void {
            $this->waiting[$request->bench()][] = $request;
            if (count($this->waiting[$request->bench()]) > self::MOST_WAITING) {
                $this->drop($this->waiting[$request->bench()][0]);
            }
            $this->next();
        });
        $request->whenGone(function () use ($request): void {
            $this->forget($request);
        });
    }

    private function next(): void
    {
        while ($this->busy < $this->atATime && $this->waiting !== []) {
            $bench = array_key_first($this->waiting);
            $request = array_pop($this->waiting[$bench]);
            $others = $this->waiting[$bench];
            // Its turn comes again after all others'.
            unset($this->waiting[$bench]);
            if ($others !== []) {
                $this->waiting[$bench] = $others;
            }
            if ($request !== null) {
                $this->pass($request);
            }
        }
    }

    private function pass(WaitingRequest $request): void
    {
        ++$this->busy;
        $over = function (): void {
            --$this->busy;
            $this->next();
        };
        $this->connector->connect("unix://{$this->to}")->then(
            static function (ConnectionInterface $process) use ($request, $over): void {
                // Until the process is done, even when nobody waits any more: only then is its place free.
                $process->on('close', $over);
                $request->passTo($process);
            },
            static function () use ($request, $over): void {
                $request->hangUp();
                $over();
            },
        );
    }

    private function drop(WaitingRequest $request): void
    {
        $this->forget($request);
        $request->hangUp();
    }

    private function forget(WaitingRequest $request): void
    {
        $bench = $request->bench();
        if (isset($this->waiting[$bench])) {
            $this->waiting[$bench] = array_values(array_filter($this->waiting[$bench], static fn(WaitingRequest $other): bool => $other !== $request));
            if ($this->waiting[$bench] === []) {
                unset($this->waiting[$bench]);
            }
        }
    }
}
