<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Shots know their event in the cut. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('shots', static function (Blueprint $table): void {
            $table->json('cut')->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropColumns('shots', ['cut']);
    }
};
