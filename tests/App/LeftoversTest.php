<?php

declare(strict_types=1);

namespace Tests\App;

use App\Deliveries\Format;
use App\Deliveries\Orders;
use App\Models\DeliveryState;
use App\Models\Job;
use App\Models\Upload;
use App\Upkeep\Leftovers;
use Illuminate\Support\Facades\Queue;

/** What is cleared away and, as important, what is not. */
final class LeftoversTest extends AppTestCase
{
    private const DAY = 86400;

    public function test_files_without_a_row_go_and_all_others_stay(): void
    {
        $shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 12));
        Queue::fake();
        $delivery = $this->app->make(Orders::class)->place($shot, Format::Ffv1, 0, 11);
        $done = $this->app->make(Orders::class)->place($shot, Format::Ffv1, 0, 11);
        $done->update(['state' => DeliveryState::Done]);
        $upload = Upload::create(['job_id' => Job::firstOrFail()->id, 'name' => 'b', 'size' => 9]);
        $sha256 = str_repeat('ab', 32);
        $stay = ["footage/{$shot->footage?->sha256}", "uploads/{$upload->id}", "deliveries/{$delivery->id}.work/00000.mkv", "deliveries/{$done->id}/a.mkv", 'tracks/ab/young.json'];
        $go = ["footage/{$sha256}", "footage/{$sha256}.part", 'uploads/nobodys', 'deliveries/99.work/00000.mkv', 'deliveries/98/b.mkv', "deliveries/{$done->id}.work/00000.mkv", 'tracks/ab/old.json', 'assets/old.cube'];
        foreach ([...$stay, ...$go] as $name) {
            $this->leave($name, str_ends_with($name, 'young.json') ? 0 : 2 * self::DAY);
        }
        self::assertGreaterThanOrEqual(8 * 4, $this->app->make(Leftovers::class)->clear());
        foreach ($stay as $name) {
            self::assertFileExists("{$this->folder}/data/{$name}");
        }
        foreach ($go as $name) {
            self::assertFileDoesNotExist("{$this->folder}/data/{$name}");
        }
        self::assertSame(0, $this->app->make(Leftovers::class)->clear());
    }

    public function test_what_may_just_be_coming_in_is_left_alone(): void
    {
        foreach (['uploads/young', 'deliveries/99.work/00000.mkv'] as $name) {
            $this->leave($name, 0);
        }
        $sha256 = str_repeat('cd', 32);
        $this->leave("footage/{$sha256}.part", 0);
        $lock = fopen("{$this->folder}/data/footage/{$sha256}.lock", 'c');
        self::assertNotFalse($lock);
        flock($lock, LOCK_EX);
        $this->app->make(Leftovers::class)->clear();
        self::assertCount(1, glob("{$this->folder}/data/footage/*.part") ?: []);
        self::assertCount(1, glob("{$this->folder}/data/uploads/*") ?: []);
        self::assertCount(1, glob("{$this->folder}/data/deliveries/*") ?: []);
        fclose($lock);
        $this->app->make(Leftovers::class)->clear();
        self::assertSame([], glob("{$this->folder}/data/footage/*"));
    }

    public function test_uploads_nobody_goes_on_with_go_after_a_week_and_parts_given_up_after_two(): void
    {
        $shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 12));
        Queue::fake();
        $delivery = $this->app->make(Orders::class)->place($shot, Format::Ffv1, 0, 11);
        $delivery->update(['state' => DeliveryState::Cancelled]);
        $upload = Upload::create(['job_id' => $shot->job_id, 'name' => 'b', 'size' => 9]);
        foreach ([[6, true, true], [8, false, true], [15, false, false]] as [$days, $hasUpload, $hasParts]) {
            $hasUpload && $this->leave("uploads/{$upload->id}", $days * self::DAY);
            $this->leave("deliveries/{$delivery->id}.work/00000.mkv", $days * self::DAY);
            Upload::whereKey($upload->id)->toBase()->update(['updated_at' => now()->subDays($days)]);
            $hasUpload || touch("{$this->folder}/data/uploads/{$upload->id}", time() - $days * self::DAY);
            $this->app->make(Leftovers::class)->clear();
            self::assertSame([$hasUpload, $hasParts], [Upload::whereKey($upload->id)->exists(), is_dir($delivery->workFolder())], "{$days} days");
        }
    }

    private function leave(string $name, int $age): void
    {
        $file = "{$this->folder}/data/{$name}";
        is_dir(dirname($file)) || mkdir(dirname($file), recursive: true);
        is_file($file) || file_put_contents($file, 'left');
        touch($file, time() - $age);
        if (str_starts_with($name, 'deliveries/')) {
            touch(dirname($file), time() - $age);
        }
    }
}
