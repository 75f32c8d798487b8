<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A person is followed at once: the head, then its parts beside each other; one edit when all are done. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('follows', static function (Blueprint $table): void {
            $table->string('person', 40)->nullable()->index();
            $table->unsignedBigInteger('after')->nullable();
            $table->string('track', 64)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('follows', static function (Blueprint $table): void {
            $table->dropIndex(['person']);
            $table->dropColumn(['person', 'after', 'track']);
        });
    }
};
