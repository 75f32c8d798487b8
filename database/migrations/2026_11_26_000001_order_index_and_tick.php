<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Shots have an order of their own, people say when a part is judged, and foreign keys are found quickly. */
return new class extends Migration {
    private const FOREIGN = ['shots' => ['job_id', 'footage_id'], 'uploads' => ['job_id'], 'follows' => ['shot_id'], 'deliveries' => ['shot_id'], 'delivery_parts' => ['delivery_id'], 'looks' => ['judging_id']];

    public function up(): void
    {
        Schema::table('shots', static function (Blueprint $table): void {
            $table->unsignedInteger('position')->default(0);
        });
        // Until now shots stood by their names.
        foreach (DB::table('jobs')->pluck('id') as $job) {
            foreach (DB::table('shots')->where('job_id', $job)->orderBy('name')->pluck('id') as $position => $shot) {
                DB::table('shots')->where('id', $shot)->update(['position' => $position]);
            }
        }
        Schema::table('judgings', static function (Blueprint $table): void {
            $table->string('engine', 32)->default('');
        });
        Schema::create('ticks', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->string('area', 64);
            $table->string('digest', 32);
            $table->timestamps();
            $table->unique(['shot_id', 'area']);
        });
        foreach (self::FOREIGN as $table => $columns) {
            Schema::table($table, static function (Blueprint $blueprint) use ($columns): void {
                array_map($blueprint->index(...), $columns);
            });
        }
    }

    public function down(): void
    {
        foreach (self::FOREIGN as $table => $columns) {
            Schema::table($table, static function (Blueprint $blueprint) use ($columns): void {
                array_map(static fn(string $column) => $blueprint->dropIndex([$column]), $columns);
            });
        }
        Schema::dropIfExists('ticks');
        Schema::dropColumns('judgings', ['engine']);
        Schema::dropColumns('shots', ['position']);
    }
};
