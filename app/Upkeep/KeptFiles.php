<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Models\Delivery;
use App\Models\Footage;

/** The files of the data folder that a backup holds, by their names under it, and what each has to contain. */
final class KeptFiles
{
    private const FOLDERS = ['footage', 'tracks', 'assets', 'deliveries'];
    private const HALF_MADE = '#\.(?:lock|part)\z|\.(?:work|part|frames|beside)/#';

    /** @var array<string, string|null> by name; null where nobody knows */
    private array $told = [];

    private function __construct() {}

    /** What the database tells of its files. */
    public static function ofDatabase(): self
    {
        $files = new self();
        foreach (Footage::query()->toBase()->select('sha256', 'path', 'content_sha256', 'info->codec as codec')->cursor() as $row) {
            // Footage made of pictures in a row is known by those; what it holds was not noted by earlier releases.
            $files->told[$row->path] = $row->content_sha256 ?? ($row->codec === 'ffv1' ? null : $row->sha256);
        }
        foreach (Delivery::query()->toBase()->whereNotNull('file')->select('file', 'sha256', 'beside', 'beside_sha256')->cursor() as $row) {
            $files->told[$row->file] = $row->sha256;
            $row->beside === null || $files->told[$row->beside] = $row->beside_sha256;
        }

        return $files;
    }

    /** @return string|null the SHA-256 that a file must have; null where neither its name nor the database tells */
    public function sha256(string $name): ?string
    {
        if (array_key_exists($name, $this->told)) {
            return $this->told[$name];
        }

        return preg_match('#\A(?:tracks/[0-9a-f]{2}|assets)/([0-9a-f]{64})\.(?:json|cube)\z#', $name, $m) === 1 ? $m[1] : null;
    }

    /** @return list<string> names of whole files in a folder, in order */
    public static function in(string $folder): array
    {
        $names = [];
        foreach (self::FOLDERS as $kept) {
            foreach (is_dir("{$folder}/{$kept}") ? new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator("{$folder}/{$kept}", \FilesystemIterator::SKIP_DOTS)) : [] as $file) {
                $names[] = substr((string) $file, strlen($folder) + 1);
            }
        }
        sort($names);

        return array_values(array_filter($names, static fn(string $name): bool => preg_match(self::HALF_MADE, $name) !== 1));
    }

    public static function isName(string $name): bool
    {
        return preg_match('#\A(?:' . implode('|', self::FOLDERS) . ')/[^\0]+\z#', $name) === 1 && array_intersect(explode('/', $name), ['', '.', '..']) === [];
    }

    /** A file itself, reached without any link under its folder. */
    public static function isPlain(string $folder, string $name): bool
    {
        return realpath("{$folder}/{$name}") === realpath($folder) . "/{$name}" && is_file("{$folder}/{$name}");
    }
}
