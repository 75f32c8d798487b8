<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Shots of a job by their state, notes and carries of a shot: found without reading whole tables. */
return new class extends Migration {
    private const INDEXES = [
        'shots' => [['job_id', 'state', 'position']],
        'frame_notes' => [['shot_id']],
        'carries' => [['shot_id'], ['source_id']],
    ];

    public function up(): void
    {
        foreach (self::INDEXES as $table => $indexes) {
            Schema::table($table, static fn(Blueprint $blueprint) => array_map($blueprint->index(...), $indexes));
        }
    }

    public function down(): void
    {
        foreach (self::INDEXES as $table => $indexes) {
            Schema::table($table, static fn(Blueprint $blueprint) => array_map($blueprint->dropIndex(...), $indexes));
        }
    }
};
