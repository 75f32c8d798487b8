<?php

declare(strict_types=1);

namespace App\Console;

use App\Bundles\BundleWriter;

final class WriteBundle extends JobCommand
{
    protected $signature = 'cossel:bundle {shots?* : names of shots; all when left out} {--job= : name of the job} {--footage : with the footage} {--out= : file to write: .zip} {--json : tell it as JSON}';

    protected $description = 'Writes a job to one file, for another installation';

    public function handle(BundleWriter $writer): int
    {
        return $this->guarded(function () use ($writer): int {
            $out = (string) $this->option('out');
            if (strtolower(pathinfo($out, PATHINFO_EXTENSION)) !== 'zip' || !is_writable(dirname($out))) {
                throw WrongUse::because('--out must end in .zip, in a folder that can be written to.');
            }
            $job = $this->job();
            $shots = $this->shots($job, $this->argument('shots'));
            $writer->write($job, $this->argument('shots') === [] ? null : $shots->pluck('id')->all(), $this->option('footage'), $out);
            $this->tell(['file' => $out, 'bytes' => filesize($out), 'shots' => $shots->pluck('name')->all()], [$out]);

            return self::DONE;
        });
    }
}
