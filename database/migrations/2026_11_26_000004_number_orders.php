<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** An order whose answer was lost and that is sent again is known by its slip. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('deliveries', static function (Blueprint $table): void {
            $table->string('slip', 40)->nullable()->unique();
        });
    }

    public function down(): void
    {
        Schema::table('deliveries', static function (Blueprint $table): void {
            $table->dropUnique(['slip']);
            $table->dropColumn('slip');
        });
    }
};
