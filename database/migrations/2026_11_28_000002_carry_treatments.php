<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Treatments carried from shot to shot, and what shots and people look like untreated. */
return new class extends Migration {
    public function up(): void
    {
        Schema::create('carries', static function (Blueprint $table): void {
            $table->id();
            $table->string('batch', 40)->index();
            $table->foreignId('source_id')->constrained('shots')->cascadeOnDelete();
            $table->unsignedInteger('source_revision');
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->string('state', 16);
            $table->json('what');
            $table->string('message')->nullable();
            $table->json('words')->default('[]');
            $table->json('misses')->default('[]');
            $table->unsignedInteger('frame')->nullable();
            $table->unsignedInteger('revision')->nullable();
            $table->longText('recipe')->nullable();
            $table->unsignedInteger('taken')->nullable();
            $table->timestamps();
        });
        Schema::table('shots', static function (Blueprint $table): void {
            $table->json('light')->nullable();
        });
        Schema::table('people', static function (Blueprint $table): void {
            $table->json('likeness')->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('carries');
        Schema::dropColumns('shots', ['light']);
        Schema::dropColumns('people', ['likeness']);
    }
};
