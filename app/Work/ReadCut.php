<?php

declare(strict_types=1);

namespace App\Work;

use App\Cuts\Brought;
use App\Cuts\CutFile;
use App\Cuts\Cuts;
use App\Models\Job;
use App\Models\Upload;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\Rate;

/** Brings in a cut that was sent. How far it is stands in its upload. */
final class ReadCut implements Piece
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
        return 'Bringing in a cut';
    }

    public function again(): void
    {
        self::dispatch($this->upload);
    }

    public function handle(Cuts $cuts): void
    {
        $upload = Upload::find($this->upload);
        $job = Job::find($upload?->job_id);
        if ($upload === null || $job === null || ($upload->told['state'] ?? null) !== 'reading') {
            return;
        }
        $told = $upload->told;
        try {
            $cut = CutFile::read($upload->name, (string) @file_get_contents($upload->path()), Rate::parse($told['rate']));
            $tell = static fn(Brought $brought) => $upload->update(['told' => [...$told, 'done' => $brought->done, 'of' => count($cut->events), 'brought' => $brought->kept()]]);
            $sentences = $cuts->bringIn($job, $cut, $told['handles'], isset($told['brought']) ? Brought::of($told['brought']) : new Brought(), $tell);
            $upload->update(['told' => ['state' => 'done', 'job' => $job->id, 'told' => $sentences]]);
        } catch (InvalidCut $reason) {
            $upload->update(['told' => ['state' => 'failed', 'message' => $reason->getMessage()]]);
        }
        @unlink($upload->path());
    }

    public function failed(?\Throwable $reason): void
    {
        Upload::whereKey($this->upload)->update(['told' => json_encode(['state' => 'failed', 'message' => 'Bringing in the cut broke off. ' . Said::of($reason)])]);
    }
}
