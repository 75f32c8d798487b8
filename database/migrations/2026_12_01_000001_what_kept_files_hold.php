<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The SHA-256 of a footage's file where that is not the one it is known by: pictures in a row are kept as one film. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('footage', static function (Blueprint $table): void {
            $table->string('content_sha256', 64)->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropColumns('footage', ['content_sha256']);
    }
};
