<?php

declare(strict_types=1);

namespace App\Server;

use React\Socket\ConnectionInterface;

/** A request as the web server passes it on by FastCGI 1.0, kept until it is passed to a process. */
final class WaitingRequest
{
    private const PARAMS = 4;
    /** More than that before its parameters end is no request of ours. */
    private const MOST_BYTES = 64 * 1024 ** 2;

    private string $bytes = '';

    private ?string $bench = null;

    private bool $isGone = false;

    private ?ConnectionInterface $process = null;

    public function __construct(private readonly ConnectionInterface $connection) {}

    /** @param callable(): void $then once it is known whose it is */
    public function whenKnown(callable $then): void
    {
        $this->connection->on('data', function (string $bytes) use ($then): void {
            if ($this->process !== null) {
                $this->process->write($bytes);

                return;
            }
            $this->bytes .= $bytes;
            if (strlen($this->bytes) > self::MOST_BYTES) {
                $this->connection->close();
            } elseif ($this->bench === null && ($params = self::params($this->bytes)) !== null) {
                $this->bench = substr($params['HTTP_X_BENCH'] ?? $params['REMOTE_ADDR'] ?? '', 0, 64);
                $then();
            }
        });
    }

    /** @param callable(): void $then once nobody waits for it any more */
    public function whenGone(callable $then): void
    {
        $this->connection->on('close', function () use ($then): void {
            $this->isGone = true;
            $then();
        });
    }

    public function bench(): string
    {
        return $this->bench ?? '';
    }

    public function hangUp(): void
    {
        $this->connection->close();
    }

    public function passTo(ConnectionInterface $process): void
    {
        if ($this->isGone) {
            $process->close();

            return;
        }
        $this->process = $process;
        $process->write($this->bytes);
        $this->bytes = '';
        $process->on('data', function (string $bytes) use ($process): void {
            if (!$this->isGone && !$this->connection->write($bytes)) {
                $process->pause();
            }
        });
        $this->connection->on('drain', static fn() => $process->resume());
        $this->connection->on('close', static fn() => $process->resume());
        $process->on('close', fn() => $this->connection->end());
    }

    /**
     * The parameters of a request, FastCGI specification, sections 3.3, 3.4 and 5.2.
     *
     * @return array<string, string>|null null until they have all come
     */
    public static function params(string $bytes): ?array
    {
        $pairs = '';
        for ($at = 0; $at + 8 <= strlen($bytes); $at += 8 + $length + $padding) {
            ['type' => $type, 'length' => $length, 'padding' => $padding] = unpack('Cversion/Ctype/nid/nlength/Cpadding', $bytes, $at);
            if ($at + 8 + $length > strlen($bytes)) {
                return null;
            }
            if ($type === self::PARAMS && $length === 0) {
                return self::pairs($pairs);
            }
            $pairs .= $type === self::PARAMS ? substr($bytes, $at + 8, $length) : '';
        }

        return null;
    }

    /** @return array<string, string> */
    private static function pairs(string $bytes): array
    {
        $pairs = [];
        $size = static function (int &$at) use ($bytes): int {
            $first = ord($bytes[$at] ?? "\0");
            $long = $first > 127;
            $size = $long ? (unpack('N', substr($bytes, $at, 4) . "\0\0\0\0")[1] & 0x7FFFFFFF) : $first;
            $at += $long ? 4 : 1;

            return $size;
        };
        for ($at = 0; $at < strlen($bytes);) {
            $name = $size($at);
            $value = $size($at);
            $pairs[substr($bytes, $at, $name)] = substr($bytes, $at + $name, $value);
            $at += $name + $value;
        }

        return $pairs;
    }
}
