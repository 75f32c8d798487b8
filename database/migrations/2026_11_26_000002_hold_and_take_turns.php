<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Work knows what it is for and when its turn is; a file on its way in knows the shot it becomes. */
return new class extends Migration {
    public function up(): void
    {
        Schema::table('queue_jobs', static function (Blueprint $table): void {
            $table->string('about', 64)->default('')->index();
            $table->unsignedInteger('turn')->default(0);
        });
        // What was waited for is lined up again by the keeper from the rows that wait; its form of then is not read any more.
        DB::table('queue_jobs')->where('queue', 'default')->delete();
        Schema::table('delivery_parts', static function (Blueprint $table): void {
            $table->text('error')->nullable();
        });
        Schema::table('uploads', static function (Blueprint $table): void {
            $table->foreignId('shot_id')->nullable()->unique()->constrained()->cascadeOnDelete();
            $table->string('span', 64)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('uploads', static function (Blueprint $table): void {
            $table->dropConstrainedForeignId('shot_id');
            $table->dropColumn('span');
        });
        Schema::dropColumns('delivery_parts', ['error']);
        Schema::table('queue_jobs', static function (Blueprint $table): void {
            $table->dropIndex(['about']);
            $table->dropColumn(['about', 'turn']);
        });
    }
};
