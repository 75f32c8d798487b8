<?php

declare(strict_types=1);

namespace App\Upkeep;

/** What a backup says of itself. It is written last; without it a folder is no backup. */
final readonly class BackupManifest
{
    private const FORMAT = 'backup/1';
    private const NAME = 'backup.json';
    private const SHA256 = '/\A[0-9a-f]{64}\z/';
    private const MOST_BYTES = 512 * 1024 ** 2;

    /**
     * @param string                    $database its SHA-256
     * @param array<string, BackupFile> $files    by name
     */
    public function __construct(public string $database, public array $files) {}

    /** @throws BackupFailed where there is none or it cannot be read */
    public static function read(string $folder): self
    {
        $file = "{$folder}/" . self::NAME;
        if (!is_file($file) || filesize($file) > self::MOST_BYTES) {
            throw BackupFailed::none($folder);
        }
        $told = json_decode((string) @file_get_contents($file), true);
        if (!is_array($told) || ($told['cossel'] ?? null) !== self::FORMAT) {
            throw BackupFailed::none($folder);
        }
        $isHash = static fn(mixed $value): bool => is_string($value) && preg_match(self::SHA256, $value) === 1;
        if (!$isHash($told['database'] ?? null) || !is_array($told['files'] ?? null)) {
            throw BackupFailed::damaged(self::NAME);
        }
        $files = [];
        foreach ($told['files'] as $name => $entry) {
            if (!KeptFiles::isName((string) $name)) {
                throw BackupFailed::damaged((string) $name);
            }
            if (!is_array($entry) || !is_int($entry['bytes'] ?? null) || !$isHash($entry['sha256'] ?? null)) {
                throw BackupFailed::damaged(self::NAME);
            }
            $time = static fn(string $which): int => is_int($entry[$which] ?? null) ? $entry[$which] : 0;
            $files[$name] = new BackupFile($entry['bytes'], $entry['sha256'], $time('source'), $time('copy'), $time('checked'));
        }

        return new self($told['database'], $files);
    }

    public static function remove(string $folder): void
    {
        @unlink("{$folder}/" . self::NAME);
    }

    public function write(string $folder): void
    {
        $told = ['cossel' => self::FORMAT, 'made' => now()->toIso8601String(), 'database' => $this->database, 'files' => array_map(get_object_vars(...), $this->files) ?: new \stdClass()];
        app('files')->replace("{$folder}/" . self::NAME, json_encode($told, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES));
    }

    public function bytes(): int
    {
        return (int) array_sum(array_map(static fn(BackupFile $file): int => $file->bytes, $this->files));
    }
}
