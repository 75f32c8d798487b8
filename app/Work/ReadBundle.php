<?php

declare(strict_types=1);

namespace App\Work;

use App\Bundles\BadBundle;
use App\Bundles\BundleReader;
use App\Models\Upload;

/** Takes a bundle in. */
final class ReadBundle implements Piece
{
    use Background;

    public function __construct(private readonly string $upload)
    {
        $this->onQueue(Queues::BENCH);
    }

    public function about(): string
    {
        return "upload {$this->upload}";
    }

    public function what(): string
    {
        return 'Taking in a bundle';
    }

    public function again(): void
    {
        self::dispatch($this->upload);
    }

    public function handle(BundleReader $reader): void
    {
        $upload = Upload::find($this->upload);
        if ($upload === null || ($upload->told['state'] ?? null) !== 'reading') {
            return;
        }
        try {
            [$job, $told] = $reader->read($upload->path());
            $upload->update(['told' => ['state' => 'done', 'job' => $job->id, 'told' => $told]]);
        } catch (BadBundle $reason) {
            $upload->update(['told' => ['state' => 'failed', 'message' => $reason->getMessage()]]);
        }
        @unlink($upload->path());
    }

    public function failed(?\Throwable $reason): void
    {
        Upload::whereKey($this->upload)->update(['told' => json_encode(['state' => 'failed', 'message' => 'Taking in the bundle broke off. ' . Said::of($reason)])]);
    }
}
