<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration {
    public function up(): void
    {
        Schema::create('versions', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('shot_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->string('name');
            $table->timestamps();
            $table->unique(['shot_id', 'name']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('versions');
    }
};
