<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Footage\StorageFull;
use Illuminate\Filesystem\Filesystem;

/** The files of a backup while it is made: each copied, kept, or copied again where what the backup holds is not what it has to be. */
final class Copies
{
    /** @var array<string, BackupFile> */
    public array $entries = [];
    public int $copied = 0;
    /** @var list<string> copies that were damaged and were copied again */
    public array $mended = [];
    /** @var list<string> files of the data that are damaged; where the backup holds a good one, that stays */
    public array $damaged = [];

    public function __construct(private readonly Filesystem $files, private readonly string $data, private readonly string $folder, private readonly KeptFiles $kept) {}

    /**
     * @param BackupFile|null $before what the backup held of it
     * @param bool            $due    whether both are read whole
     */
    public function add(string $name, ?BackupFile $before, bool $due): void
    {
        [$from, $to] = ["{$this->data}/{$name}", "{$this->folder}/{$name}"];
        clearstatcache();
        $source = @stat($from);
        if ($source === false) {
            // Removed in this moment: then the database of this backup may still name it, but nobody misses it.
            return;
        }
        $isPlain = KeptFiles::isPlain($this->folder, $name);
        $copy = $isPlain ? @stat($to) : false;
        $isSame = $before !== null && $source['size'] === $before->bytes && $source['mtime'] === $before->source;
        if ($isSame && !$due && $copy !== false && $copy['size'] === $before->bytes && $copy['mtime'] === $before->copy) {
            $this->entries[$name] = $before;

            return;
        }
        $wanted = $this->kept->sha256($name) ?? ($isSame ? $before->sha256 : null);
        if ($copy !== false && $wanted !== null && hash_file('sha256', $to) === $wanted) {
            if (hash_file('sha256', $from) !== $wanted) {
                $this->damaged[] = $name;
            }
            $this->entries[$name] = new BackupFile($copy['size'], $wanted, $source['mtime'], $copy['mtime'], time());

            return;
        }
        $this->copy($name, $wanted, $source['mtime'], $before !== null && $isSame);
    }

    public function holds(string $name): bool
    {
        // A copy whose file is damaged, too, stays: another part of it may be good.
        return isset($this->entries[$name]) || in_array($name, $this->damaged, true);
    }

    private function copy(string $name, ?string $wanted, int $changed, bool $wasHeld): void
    {
        $to = "{$this->folder}/{$name}";
        $this->files->ensureDirectoryExists(dirname($to));
        if (realpath(dirname($to)) !== dirname($to)) {
            throw BackupFailed::link(dirname($name));
        }
        $sha256 = self::copied("{$this->data}/{$name}", "{$to}.part");
        if ($wanted !== null && $sha256 !== $wanted) {
            $this->files->delete("{$to}.part");
            $this->damaged[] = $name;

            return;
        }
        rename("{$to}.part", $to);
        ++$this->copied;
        if ($wasHeld) {
            $this->mended[] = $name;
        }
        clearstatcache();
        $this->entries[$name] = new BackupFile((int) filesize($to), $sha256, $changed, (int) filemtime($to), time());
    }

    /** @return string the SHA-256 of what was read */
    public static function copied(string $from, string $to): string
    {
        $in = @fopen($from, 'rb');
        @unlink($to);
        $out = @fopen($to, 'xb');
        if ($in === false || $out === false) {
            throw $out === false ? StorageFull::or(dirname($to) . ' cannot be written to.') : BackupFailed::unreadable(basename($from), 'it cannot be opened');
        }
        $hash = hash_init('sha256');
        while (!feof($in)) {
            $bytes = (string) fread($in, 1 << 20);
            hash_update($hash, $bytes);
            if (@fwrite($out, $bytes) !== strlen($bytes)) {
                throw StorageFull::or(dirname($to) . ' cannot be written to.');
            }
        }
        fclose($in);
        fsync($out);
        fclose($out);

        return hash_final($hash);
    }
}
