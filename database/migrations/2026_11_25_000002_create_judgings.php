<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration {
    public function up(): void
    {
        Schema::create('judgings', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('revision');
            $table->longText('measures')->nullable();
            $table->text('message')->nullable();
            $table->timestamps();
            $table->unique(['shot_id', 'revision']);
        });
        Schema::create('looks', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('judging_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('from');
            $table->unsignedInteger('to');
            $table->longText('looks')->nullable();
        });
        Schema::table('shots', static function (Blueprint $table): void {
            $table->json('limits')->default('{}');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('looks');
        Schema::dropIfExists('judgings');
        Schema::dropColumns('shots', ['limits']);
    }
};
