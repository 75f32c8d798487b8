<?php

declare(strict_types=1);

namespace App\Models;

use App\Footage\FootageFile;
use App\Footage\FootageInfo;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Storage;

/**
 * A file of footage that was brought in, kept once however many shots use it.
 *
 * @property int                  $id
 * @property string               $sha256 it is known by
 * @property string|null          $content_sha256 of its file, where it was noted: pictures in a row are kept as another
 * @property string               $path   on the data disk
 * @property string               $name   as it was uploaded
 * @property array<string, mixed> $info
 */
final class Footage extends Model
{
    protected $table = 'footage';

    protected $casts = ['info' => 'array'];

    private ?FootageInfo $read = null;

    public function info(): FootageInfo
    {
        return $this->read ??= FootageInfo::fromArray($this->info);
    }

    public function file(): FootageFile
    {
        return new FootageFile(Storage::disk('data')->path($this->path), $this->sha256, $this->info(), $this->name);
    }
}
