<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Job;
use App\Models\Shot;
use App\Reports\Report;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** What was done, for whoever signs it off. */
final class ReportController
{
    public function __construct(private readonly Report $report) {}

    public function job(Job $job, string $form): Response
    {
        return self::answer($this->report->ofJob($job), $job->name, $form);
    }

    public function shot(Shot $shot, string $form): Response
    {
        return self::answer($this->report->ofShot($shot), $shot->name, $form);
    }

    private static function answer(string $html, string $of, string $form): Response
    {
        $name = (Str::slug($of, '_') ?: 'report') . ".{$form}";

        return new Response($form === 'pdf' ? Report::pdf($html) : $html, 200, ['Content-Type' => $form === 'pdf' ? 'application/pdf' : 'text/html; charset=utf-8', 'Content-Disposition' => "attachment; filename=\"{$name}\""]);
    }
}
