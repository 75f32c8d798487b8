<?php

declare(strict_types=1);

namespace App\Console;

use App\Reports\Report;

final class WriteReport extends JobCommand
{
    protected $signature = 'cossel:report {--job= : name of the job} {--shot= : one shot of it} {--out= : file to write: .html or .pdf} {--json : tell it as JSON}';

    protected $description = 'Writes a report of a job or a shot';

    public function handle(Report $report): int
    {
        return $this->guarded(function () use ($report): int {
            $out = (string) $this->option('out');
            $form = strtolower(pathinfo($out, PATHINFO_EXTENSION));
            if (!in_array($form, ['html', 'pdf'], true)) {
                throw WrongUse::because('--out must end in .html or .pdf.');
            }
            $job = $this->job();
            $shot = $this->option('shot') === null ? null : $this->shots($job, [(string) $this->option('shot')])->first();
            $html = $shot === null ? $report->ofJob($job) : $report->ofShot($shot);
            if (@file_put_contents($out, $form === 'pdf' ? Report::pdf($html) : $html) === false) {
                throw WrongUse::because("{$out} cannot be written.");
            }
            $this->tell(['file' => $out, 'bytes' => filesize($out)], [$out]);

            return self::DONE;
        });
    }
}
