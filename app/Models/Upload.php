<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Storage;

/**
 * A file on its way in, piece by piece.
 *
 * @property string $id
 * @property int|null $job_id null for a bundle
 * @property string $name
 * @property int    $size
 * @property int|null $shot_id that is made of it
 * @property string|null $source where it is on the server, when it was not sent
 * @property array{int, int|null}|null $span frames to use; null for all
 * @property array<string, mixed>|null $told what has become of a bundle or a cut: its state (reading, done, failed), a message or what was done, and how far it is
 */
final class Upload extends Model
{
    use HasUuids;

    protected $casts = ['span' => 'array', 'told' => 'array'];

    /** Where it is kept until it is taken in: what was sent, or what was fetched from the server's folders. */
    public function path(): string
    {
        Storage::disk('data')->makeDirectory('uploads');

        return Storage::disk('data')->path("uploads/{$this->id}");
    }

    public function received(): int
    {
        clearstatcache(true, $this->path());

        return is_file($this->path()) ? (int) filesize($this->path()) : 0;
    }
}
