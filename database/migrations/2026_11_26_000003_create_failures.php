<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Background work that was given up is kept, with its reason, until somebody has seen to it. */
return new class extends Migration {
    public function up(): void
    {
        Schema::create('failures', static function (Blueprint $table): void {
            $table->id();
            $table->string('about', 64)->unique();
            $table->string('what');
            $table->text('reason');
            $table->longText('work');
            $table->timestamps();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('failures');
    }
};
