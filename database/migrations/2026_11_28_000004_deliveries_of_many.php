<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Delivered files are named by a pattern and known by their SHA-256. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('deliveries', static function (Blueprint $table): void {
            $table->string('name', 200)->nullable();
            $table->string('sha256', 64)->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropColumns('deliveries', ['name', 'sha256']);
    }
};
