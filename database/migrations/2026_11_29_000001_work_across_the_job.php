<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Deliveries in other sizes, with files beside; kept ways of delivering; kept treatments; notes on frames; shots put away; footage from the
 * server's folders; bundles, and what they wait for.
 */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('deliveries', static function (Blueprint $table): void {
            $table->json('wishes')->default('{}');
            $table->string('beside')->nullable();
            $table->string('beside_sha256', 64)->nullable();
        });
        Schema::table('uploads', static function (Blueprint $table): void {
            $table->string('source', 1000)->nullable();
            $table->json('told')->nullable();
            $table->foreignId('job_id')->nullable()->change();
        });
        Schema::create('presets', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('job_id')->constrained()->cascadeOnDelete();
            $table->string('name', 80);
            $table->json('order');
            $table->timestamps();
            $table->unique(['job_id', 'name']);
        });
        Schema::create('treatments', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('job_id')->constrained()->cascadeOnDelete();
            $table->string('name', 80);
            $table->json('recipe');
            $table->timestamps();
            $table->unique(['job_id', 'name']);
        });
        Schema::create('frame_notes', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('frame');
            $table->text('text');
            $table->boolean('resolved')->default(false);
            $table->timestamps();
        });
        Schema::table('shots', static function (Blueprint $table): void {
            $table->boolean('archived')->default(false);
            $table->string('origin', 36)->nullable();
            $table->json('wants')->nullable();
        });
        Schema::table('jobs', static function (Blueprint $table): void {
            $table->string('origin', 36)->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropColumns('jobs', ['origin']);
        Schema::dropColumns('shots', ['archived', 'origin', 'wants']);
        Schema::drop('frame_notes');
        Schema::drop('treatments');
        Schema::drop('presets');
        Schema::dropColumns('uploads', ['source', 'told']);
        Schema::dropColumns('deliveries', ['wishes', 'beside', 'beside_sha256']);
    }
};
