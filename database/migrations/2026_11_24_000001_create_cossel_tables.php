<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration {
    public function up(): void
    {
        Schema::create('jobs', static function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->timestamps();
        });
        Schema::create('people', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('job_id')->constrained()->cascadeOnDelete();
            $table->string('slug');
            $table->string('name');
            $table->timestamps();
            $table->unique(['job_id', 'slug']);
        });
        Schema::create('footage', static function (Blueprint $table): void {
            $table->id();
            $table->string('sha256', 64)->unique();
            $table->string('path');
            $table->string('name');
            $table->json('info');
            $table->timestamps();
        });
        Schema::create('shots', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('job_id')->constrained()->cascadeOnDelete();
            $table->foreignId('footage_id')->nullable()->constrained('footage');
            $table->string('name');
            $table->text('notes')->default('');
            $table->string('state');
            $table->text('error')->nullable();
            $table->unsignedInteger('from')->default(0);
            $table->unsignedInteger('to')->default(0);
            $table->unsignedInteger('revision')->default(0);
            $table->timestamps();
        });
        Schema::create('revisions', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->unsignedInteger('parent')->nullable();
            $table->string('label');
            $table->longText('recipe');
            $table->timestamp('created_at');
            $table->unique(['shot_id', 'number']);
        });
        Schema::create('uploads', static function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->foreignId('job_id')->constrained()->cascadeOnDelete();
            $table->string('name');
            $table->unsignedBigInteger('size');
            $table->timestamps();
        });
        Schema::create('follows', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->string('area');
            $table->string('shape')->nullable();
            $table->string('state');
            $table->unsignedInteger('start');
            $table->unsignedInteger('from');
            $table->unsignedInteger('to');
            $table->boolean('stop')->default(false);
            $table->longText('steps')->default('[]');
            $table->text('message')->nullable();
            $table->timestamps();
        });
        Schema::create('deliveries', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->string('format');
            $table->string('state');
            $table->unsignedInteger('from');
            $table->unsignedInteger('to');
            $table->unsignedInteger('revision');
            $table->longText('recipe');
            $table->string('file')->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->text('error')->nullable();
            $table->timestamps();
        });
        Schema::create('delivery_parts', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('index');
            $table->unsignedInteger('from');
            $table->unsignedInteger('to');
            $table->unsignedInteger('done')->default(0);
            $table->boolean('complete')->default(false);
        });
        Schema::create('queue_jobs', static function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
            $table->string('worker')->nullable();
        });
    }

    public function down(): void
    {
        foreach (['queue_jobs', 'delivery_parts', 'deliveries', 'follows', 'uploads', 'revisions', 'shots', 'footage', 'people', 'jobs'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
