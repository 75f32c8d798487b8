<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\FfmpegInterrupted;
use App\Footage\FrameCache;
use App\Footage\FrameReader;
use App\Footage\Jail;
use App\Footage\Sheet;
use App\Footage\UnreadableFootage;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Work\ReadFootage;
use Cossel\Core\Picture\FrameFormat;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Process\Process;

final class FootageTest extends AppTestCase
{
    /** @return iterable<string, array{string, list<string>, string}> */
    public static function containers(): iterable
    {
        yield 'VP9 in WebM' => ['a.webm', ['-c:v', 'libvpx-vp9', '-g', '9', '-cpu-used', '8'], 'yuv420p'];
        yield 'H.264 with B-frames in MP4' => ['b.mp4', ['-c:v', 'libx264', '-g', '10', '-bf', '3'], 'yuv420p'];
        yield '10-bit H.264 in MOV' => ['c.mov', ['-c:v', 'libx264', '-g', '10', '-bf', '2'], 'yuv422p10le'];
        yield 'FFV1 RGB in Matroska' => ['d.mkv', ['-c:v', 'ffv1'], 'gbrp12le'];
        yield 'Theora in Ogg' => ['e.ogv', ['-c:v', 'libtheora', '-q:v', '8', '-g', '8'], 'yuv420p'];
    }

    /** @param list<string> $options */
    #[DataProvider('containers')]
    public function test_every_frame_is_the_one_a_decode_of_the_whole_file_gives(string $name, array $options, string $pixels): void
    {
        $file = $this->film($name, [...$options, '-pix_fmt', $pixels], frames: 31);
        $shot = $this->shot($file);
        self::assertSame(ShotState::Ready, $shot->state, (string) $shot->error);
        $footage = $shot->readyFootage()->file();
        $format = $footage->info->format();
        self::assertSame(31, $footage->info->frames());
        $whole = $this->ffmpeg(['-i', $file, '-vf', (new Sheet([$format]))->filter(), '-fps_mode', 'passthrough', '-f', 'rawvideo', '-']);
        self::assertSame(31 * $format->bytes(), strlen($whole));
        $cache = $this->app->make(FrameCache::class);
        foreach ([30, 0, 17, ...range(0, 30)] as $number) {
            self::assertSame(md5(substr($whole, $number * $format->bytes(), $format->bytes())), md5($cache->frame($footage, $number, 64)->bytes), "frame {$number}");
        }
        foreach ([[0, 30], [13, 22], [30, 30]] as [$from, $to]) {
            $read = [];
            foreach ((new FrameReader())->frames($footage, $from, $to) as $number => $frame) {
                $read[$number] = md5($frame->bytes);
            }
            self::assertSame(range($from, $to), array_keys($read));
            foreach ($read as $number => $md5) {
                self::assertSame(md5(substr($whole, $number * $format->bytes(), $format->bytes())), $md5, "frame {$number} of {$from} to {$to}");
            }
        }
    }

    public function test_chunks_one_after_the_other_come_from_one_decode_that_ends_with_the_work(): void
    {
        $file = $this->film('row.mkv', ['-c:v', 'ffv1', '-g', '1', '-pix_fmt', 'yuv420p'], frames: 40);
        $footage = $this->shot($file)->readyFootage()->file();
        $cache = $this->app->make(FrameCache::class);
        $cache->frame($footage, 0, 48);
        unlink($footage->path);
        // Whoever reads it has it still.
        self::assertSame(48, $cache->frame($footage, 12, 48)->format->height);
        $cache->rest();
        $this->expectExceptionMessage('row.mkv');
        $cache->frame($footage, 24, 48);
    }

    public function test_frames_read_in_order_end_with_the_one_that_is_not_there(): void
    {
        $file = $this->film('cut.mkv', ['-c:v', 'ffv1', '-g', '1', '-pix_fmt', 'yuv420p']);
        $footage = $this->shot($file)->readyFootage()->file();
        $bytes = (string) file_get_contents($footage->path);
        chmod($footage->path, 0600);
        file_put_contents($footage->path, substr($bytes, 0, intdiv(strlen($bytes), 2)));
        $read = [];
        try {
            foreach ((new FrameReader())->frames($footage, 2, 25) as $number => $frame) {
                $read[] = $number;
            }
            self::fail('Half of them are gone.');
        } catch (UnreadableFootage $e) {
            self::assertStringContainsString((string) (end($read) + 1), $e->getMessage());
        }
        self::assertSame(range(2, count($read) + 1), $read);
        self::assertGreaterThan(5, count($read));
        unlink($footage->path);
        $this->expectExceptionMessage('cut.mkv');
        iterator_to_array((new FrameReader())->frames($footage, 2, 25));
    }

    public function test_a_varying_rate_keeps_every_frames_time(): void
    {
        $file = $this->film('vfr.mkv', ['-c:v', 'ffv1', '-fps_mode', 'passthrough'], filter: "select='not(mod(n\\,7)*lt(mod(n\\,7)\\,2)+eq(mod(n\\,7)\\,3))'", frames: 20);
        $shot = $this->shot($file);
        self::assertSame(ShotState::Ready, $shot->state, (string) $shot->error);
        $info = $shot->readyFootage()->info();
        self::assertTrue($info->variable);
        self::assertSame(20, $info->frames());
        self::assertContains('The frame rate varies; each frame keeps its own time.', $info->notes);
        $delivery = $this->postJson("/api/shots/{$shot->id}/deliveries", ['format' => 'ffv1', 'from' => 2, 'to' => 17])->assertSuccessful()->json();
        $done = \App\Models\Delivery::findOrFail($delivery['id']);
        self::assertSame(\App\Models\DeliveryState::Done, $done->state, (string) $done->error);
        $times = json_decode((new \Symfony\Component\Process\Process(['ffprobe', '-v', 'error', '-select_streams', 'v:0', '-show_entries', 'frame=pts_time', '-of', 'json', "{$this->folder}/data/{$done->file}"]))->mustRun()->getOutput(), true)['frames'];
        self::assertCount(16, $times);
        foreach ($times as $i => $time) {
            self::assertEqualsWithDelta($info->seconds($i + 2) - $info->seconds(2), (float) $time['pts_time'], 0.0011, "frame {$i}");
        }
    }

    public function test_rate_tags_timecode_and_sound_are_read(): void
    {
        $file = "{$this->folder}/tagged.mov";
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24000/1001', '-f', 'lavfi', '-i', 'sine', '-frames:v', '12', '-shortest', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv', '-timecode', '10:00:01:05', '-c:a', 'pcm_s16le', $file]);
        $info = $this->shot($file)->readyFootage()->info();
        self::assertSame('24000/1001', $info->rate);
        self::assertSame(['space' => 'bt709', 'transfer' => 'bt709', 'primaries' => 'bt709', 'range' => 'tv'], $info->tags);
        self::assertSame('10:00:01:05', $info->timecode);
        self::assertSame('pcm_s16le', $info->audio['codec'] ?? null);
        self::assertFalse($info->variable);
    }

    public function test_rotation_and_pixel_aspect_are_applied_first(): void
    {
        $file = $this->film('aspect.mkv', ['-c:v', 'ffv1', '-vf', 'setsar=2']);
        self::assertSame(192, $this->shot($file)->readyFootage()->info()->width);
        $plain = $this->film('plain.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p']);
        $turned = "{$this->folder}/turned.mp4";
        $this->ffmpeg(['-i', $plain, '-c', 'copy', '-metadata:s:v:0', 'rotate=90', $turned]);
        $footage = $this->shot($turned)->readyFootage()->file();
        self::assertSame([64, 96], [$footage->info->width, $footage->info->height]);
        $upright = $this->ffmpeg(['-i', $turned, '-vf', (new Sheet([$footage->info->format()]))->filter(), '-frames:v', '1', '-f', 'rawvideo', '-']);
        self::assertSame(md5($upright), md5($this->app->make(FrameCache::class)->frame($footage, 0, 96)->bytes));
    }

    public function test_a_zipped_sequence_becomes_footage(): void
    {
        mkdir("{$this->folder}/pngs");
        $this->film('pngs/f%03d.png', ['-pix_fmt', 'rgb48be'], frames: 5);
        $zip = new \ZipArchive();
        $zip->open("{$this->folder}/sequence.zip", \ZipArchive::CREATE);
        foreach (glob("{$this->folder}/pngs/*.png") ?: [] as $png) {
            $zip->addFile($png, 'pictures/' . basename($png));
        }
        $zip->close();
        $shot = $this->shot("{$this->folder}/sequence.zip");
        self::assertSame(ShotState::Ready, $shot->state, (string) $shot->error);
        $footage = $shot->readyFootage()->file();
        self::assertSame(5, $footage->info->frames());
        $png = $this->ffmpeg(['-i', "{$this->folder}/pngs/f003.png", '-pix_fmt', 'gbrp16le', '-f', 'rawvideo', '-']);
        self::assertSame(md5($png), md5($this->app->make(FrameCache::class)->frame($footage, 2, 64)->bytes));
    }

    public function test_an_archive_that_unpacks_to_more_than_it_says_is_refused(): void
    {
        config(['limits.footage.unpacked_bytes' => 1_000_000]);
        $file = "{$this->folder}/bomb.zip";
        $zip = new \ZipArchive();
        $zip->open($file, \ZipArchive::CREATE);
        $zip->addFromString('f001.png', str_repeat("\0", 40_000_000));
        $zip->close();
        // Both headers say that it is a hundred bytes.
        $bytes = (string) file_get_contents($file);
        self::assertSame(2, substr_count($bytes, pack('V', 40_000_000)));
        file_put_contents($file, str_replace(pack('V', 40_000_000), pack('V', 100), $bytes));
        $shot = $this->shot($file);
        self::assertSame(ShotState::Failed, $shot->state);
        self::assertStringContainsString('unpacks to more than the limit', (string) $shot->error);
    }

    public function test_a_sequence_keeps_every_pictures_place_and_tells_which_are_broken_or_missing(): void
    {
        mkdir("{$this->folder}/pngs");
        $this->film('pngs/f%03d.png', ['-pix_fmt', 'rgb48be'], frames: 7);
        unlink("{$this->folder}/pngs/f006.png");
        file_put_contents("{$this->folder}/pngs/f003.png", 'no picture at all');
        $zip = new \ZipArchive();
        $zip->open("{$this->folder}/sequence.zip", \ZipArchive::CREATE);
        foreach (glob("{$this->folder}/pngs/*.png") ?: [] as $png) {
            $zip->addFile($png, basename($png));
        }
        $zip->close();
        $shot = $this->shot("{$this->folder}/sequence.zip");
        self::assertSame(ShotState::Doubtful, $shot->state, (string) $shot->error);
        self::assertSame('By their numbers pictures are missing: 6. f003.png cannot be decoded; the picture before stands in.', $shot->error);
        $this->postJson("/api/shots/{$shot->id}/accept")->assertOk()->assertJson(['state' => 'ready', 'error' => null]);
        $footage = $shot->refresh()->readyFootage()->file();
        $frame = fn(int $number): string => md5($this->app->make(FrameCache::class)->frame($footage, $number, 64)->bytes);
        self::assertSame(6, $footage->info->frames());
        self::assertSame($frame(1), $frame(2));
        $png = $this->ffmpeg(['-i', "{$this->folder}/pngs/f004.png", '-pix_fmt', 'gbrp16le', '-f', 'rawvideo', '-']);
        self::assertSame(md5($png), $frame(3));
    }

    /** @return iterable<string, array{list<string>, string, string}> */
    public static function soundContainers(): iterable
    {
        yield 'matroska' => [['-c:v', 'libx264', '-g', '10', '-pix_fmt', 'yuv420p'], 'mkv', 'matroska'];
        yield 'webm' => [['-c:v', 'libvpx-vp9', '-cpu-used', '8', '-deadline', 'realtime', '-pix_fmt', 'yuv420p'], 'webm', 'webm'];
        yield 'mp4 with its index in front' => [['-c:v', 'libx264', '-g', '10', '-pix_fmt', 'yuv420p', '-movflags', '+faststart'], 'mp4', 'mp4'];
        yield 'with sound that lasts longer' => [['-f', 'lavfi', '-i', 'sine=duration=4', '-c:v', 'libx264', '-c:a', 'flac', '-pix_fmt', 'yuv420p'], 'mkv', 'matroska'];
    }

    /** @param list<string> $options */
    #[DataProvider('soundContainers')]
    public function test_a_file_that_ends_early_is_told_of_and_a_whole_one_is_not(array $options, string $extension): void
    {
        $input = ['-f', 'lavfi', '-i', 'testsrc2=size=160x120:rate=24:duration=2.5', ...$options, '-y', "{$this->folder}/whole.{$extension}"];
        $this->ffmpeg($input);
        $whole = $this->shot("{$this->folder}/whole.{$extension}");
        self::assertSame([ShotState::Ready, null], [$whole->state, $whole->error]);
        $bytes = (string) file_get_contents("{$this->folder}/whole.{$extension}");
        foreach ([0.4, 0.7, 0.9] as $share) {
            file_put_contents("{$this->folder}/cut.{$extension}", substr($bytes, 0, (int) ($share * strlen($bytes))));
            $shot = $this->shot("{$this->folder}/cut.{$extension}");
            self::assertSame(ShotState::Doubtful, $shot->state, "{$share}");
            self::assertMatchesRegularExpression('/ends early: by its own word it lasts \d+ frames, and they end after frame \d+\./', (string) $shot->error, "{$share}");
        }
    }

    public function test_frames_the_decoder_complains_of_are_named(): void
    {
        $file = $this->film('torn.mkv', ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slices', '4', '-slicecrc', '1', '-pix_fmt', 'yuv420p'], '320x240', 20);
        $packets = json_decode((new Process(['ffprobe', '-v', 'error', '-show_entries', 'packet=pos,size', '-of', 'json', $file]))->mustRun()->getOutput(), true)['packets'];
        $bytes = (string) file_get_contents($file);
        foreach ([7, 8, 13] as $frame) {
            $bytes[(int) $packets[$frame]['pos'] + intdiv(5 * (int) $packets[$frame]['size'], 8)] = "\xA5";
        }
        file_put_contents("{$this->folder}/flipped.mkv", $bytes);
        $shot = $this->shot("{$this->folder}/flipped.mkv");
        self::assertSame([ShotState::Doubtful, 'The picture may be torn at frames 7 to 8, 13.'], [$shot->state, $shot->error]);
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('footage.damage', ['The picture may be torn at frames 7 to 8, 13.']);
        $this->postJson("/api/shots/{$shot->id}/picture", ['frame' => 0, 'view' => 'result', 'height' => 64])->assertStatus(409);
        $this->deleteJson("/api/shots/{$shot->id}")->assertNoContent();
    }

    public function test_reading_begun_again_anywhere_comes_to_the_same(): void
    {
        $file = $this->film('again.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 6);
        $sha256 = (string) hash_file('sha256', $file);
        $kept = "{$this->folder}/data/footage/{$sha256}";
        // Died while it was copied; after it was in place but before its row; and after its row.
        foreach (['half', 'placed', 'known'] as $stage) {
            @mkdir(dirname($kept));
            match ($stage) {
                'half' => file_put_contents("{$kept}.part", 'half'),
                'placed' => copy($file, $kept),
                'known' => null,
            };
            $shot = $this->shot($file);
            self::assertSame([ShotState::Ready, 5], [$shot->state, $shot->to], $stage);
            self::assertSame([$kept], glob("{$this->folder}/data/footage/*"), $stage);
            self::assertSame([], glob("{$this->folder}/data/uploads/*"), $stage);
        }
        $row = $shot->footage()->firstOrFail();
        ReadFootage::dispatchSync($shot->id);
        self::assertSame([$row->id, 1], [$shot->refresh()->footage_id, $shot->revisions()->count()]);
    }

    public function test_a_file_whose_reading_broke_off_is_kept_and_read_again(): void
    {
        $shot = $this->shot($this->film('broke.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 6));
        $shot->update(['state' => ShotState::Reading]);
        file_put_contents(Upload::where('shot_id', $shot->id)->firstOrFail()->path(), 'x');
        (new ReadFootage($shot->id))->failed(null);
        $this->getJson("/api/shots/{$shot->id}")->assertJson(['state' => 'failed', 'canBeReadAgain' => true, 'error' => 'Reading the file broke off. The worker broke off. Try it again.']);
        copy("{$this->folder}/broke.mkv", Upload::where('shot_id', $shot->id)->firstOrFail()->path());
        $this->postJson("/api/shots/{$shot->id}/read")->assertOk()->assertJson(['state' => 'ready', 'error' => null]);
        // What came late of the first time changes nothing any more.
        (new ReadFootage($shot->id))->failed(null);
        self::assertSame(ShotState::Ready, $shot->refresh()->state);
    }

    /** @return iterable<string, array{\Closure(self): string, string}> */
    public static function refused(): iterable
    {
        $text = static function (self $test): string {
            file_put_contents("{$test->folder}/notes.webm", str_repeat("Not a film.\n", 50));

            return "{$test->folder}/notes.webm";
        };
        yield 'a text' => [$text, 'cannot be read as video'];
        yield 'an empty file' => [static function (self $test): string {
            touch("{$test->folder}/empty.webm");

            return "{$test->folder}/empty.webm";
        }, 'cannot be read as video'];
        yield 'sound alone' => [static function (self $test): string {
            $test->ffmpeg(['-f', 'lavfi', '-i', 'sine=duration=1', "{$test->folder}/sound.ogg"]);

            return "{$test->folder}/sound.ogg";
        }, 'no picture in this file'];
        yield 'too wide' => [static fn(self $test): string => $test->film('wide.mkv', ['-c:v', 'ffv1', '-vf', 'scale=8208:16'], frames: 1), 'the limit is 8192 pixels'];
        yield 'PQ' => [static fn(self $test): string => $test->film('pq.mkv', ['-c:v', 'ffv1', '-color_trc', 'smpte2084', '-pix_fmt', 'yuv420p10le']), 'smpte2084'];
        yield 'HLG' => [static fn(self $test): string => $test->film('hlg.mkv', ['-c:v', 'ffv1', '-color_trc', 'arib-std-b67', '-pix_fmt', 'yuv420p10le']), 'arib-std-b67'];
        yield 'wide primaries' => [static fn(self $test): string => $test->film('wide.mkv', ['-c:v', 'ffv1', '-color_primaries', 'bt2020', '-pix_fmt', 'yuv420p10le']), 'bt2020'];
        yield 'interlaced' => [static fn(self $test): string => $test->film('fields.mkv', ['-c:v', 'mpeg2video', '-flags', '+ilme+ildct', '-vf', 'setfield=tff', '-pix_fmt', 'yuv420p']), 'interlaced'];
        yield 'a playlist naming other files' => [static function (self $test): string {
            file_put_contents("{$test->folder}/list.mkv", "ffconcat version 1.0\nfile /etc/hostname\n");

            return "{$test->folder}/list.mkv";
        }, 'cannot be read as video'];
        yield 'an archive without pictures' => [static function (self $test): string {
            $zip = new \ZipArchive();
            $zip->open("{$test->folder}/other.zip", \ZipArchive::CREATE);
            $zip->addFromString('readme.txt', 'no');
            $zip->close();

            return "{$test->folder}/other.zip";
        }, 'no PNG, TIFF, JPEG, DPX or OpenEXR'];
    }

    /** @param \Closure(self): string $make */
    #[DataProvider('refused')]
    public function test_what_is_not_taken_is_refused_with_a_sentence(\Closure $make, string $sentence): void
    {
        $shot = $this->shot($make($this));
        self::assertSame(ShotState::Failed, $shot->state);
        self::assertStringContainsString($sentence, (string) $shot->error);
        self::assertStringNotContainsString($this->folder, (string) $shot->error);
        self::assertSame([], glob("{$this->folder}/data/footage/*"));
    }

    public function test_more_frames_than_the_limit_are_refused(): void
    {
        config(['limits.footage.frames' => 10]);
        self::assertStringContainsString('the limit is 10', (string) $this->shot($this->film('long.mkv', ['-c:v', 'ffv1'], frames: 11))->error);
    }

    public function test_a_span_can_be_chosen_and_must_be_inside(): void
    {
        $file = $this->film('span.mkv', ['-c:v', 'ffv1']);
        $shot = $this->shot($file, [5, 20]);
        self::assertSame([5, 20, [5, 20]], [$shot->from, $shot->to, $this->recipe($shot)['source']['span']]);
        self::assertStringContainsString('frames 0 to 29', (string) $this->shot($file, [5, 40])->error);
    }

    public function test_the_frame_cache_keeps_its_bound(): void
    {
        config(['cossel.cache.frames_bytes' => 1]);
        $this->app->forgetInstance(FrameCache::class);
        $shot = $this->shot($this->film('cache.mkv', ['-c:v', 'ffv1']));
        $cache = $this->app->make(FrameCache::class);
        foreach ([0, 13, 25] as $number) {
            $cache->frame($shot->readyFootage()->file(), $number, 64);
        }
        self::assertCount(1, glob("{$this->folder}/cache/frames/*/96x64/*", GLOB_ONLYDIR) ?: []);
    }

    public function test_one_footage_leaves_room_for_the_others_once_nobody_looks_at_it(): void
    {
        config(['cossel.cache.footage_bytes' => 3_000_000]);
        $this->app->forgetInstance(FrameCache::class);
        $footage = $this->shot($this->film('room.mkv', ['-c:v', 'ffv1'], size: '192x128'))->readyFootage()->file();
        $cache = $this->app->make(FrameCache::class);
        // Frames of 128 rows take 147 kB, of 64 rows 37 kB, of 32 rows 9 kB; there are 30.
        self::assertSame([64, 32], $cache->affordable($footage->info, 30, 128, 60, 64, 30));
        $cache->prepare($footage, 0, 29, 128);
        $chunks = fn(): array => glob("{$this->folder}/cache/frames/*/192x128/*", GLOB_ONLYDIR) ?: [];
        self::assertCount(3, $chunks());
        foreach ($chunks() as $chunk) {
            touch($chunk, time() - (basename($chunk) === '0' ? 2000 : 1300));
        }
        touch($chunks()[2]);
        $cache->keepBound();
        self::assertSame(['12', '24'], array_map(basename(...), $chunks()));
    }

    public function test_sizes_decoded_together_are_those_decoded_alone(): void
    {
        foreach ([['-pix_fmt', 'yuv420p'], ['-pix_fmt', 'gbrp']] as $pixels) {
            $footage = $this->shot($this->film("sizes{$pixels[1]}.mkv", ['-c:v', 'ffv1', ...$pixels]))->readyFootage()->file();
            $reader = $this->app->make(FrameReader::class);
            $formats = array_map(static fn(int $height): FrameFormat => FrameCache::sized($footage->info, $height), [32, 64, 17]);
            foreach ($reader->sizes($footage, 3, 5, $formats) as $number => $frames) {
                foreach ($formats as $i => $format) {
                    $alone = iterator_to_array($reader->frames($footage, $number, $number, $format))[$number];
                    self::assertSame(md5($alone->bytes), md5($frames[$i]->bytes), "{$pixels[1]}, frame {$number}, {$format->height} rows");
                }
            }
            $some = iterator_to_array($reader->some($footage, [2, 3, 11, 29]));
            self::assertSame([2, 3, 11, 29], array_keys($some));
            self::assertSame(md5(iterator_to_array($reader->frames($footage, 11, 11))[11]->bytes), md5($some[11]->bytes));
        }
    }

    public function test_frames_are_decoded_ahead_behind_all_work_that_somebody_waits_for(): void
    {
        $shot = $this->shot($this->film('ahead.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p']));
        \Illuminate\Support\Facades\Queue::fake();
        \App\Work\PrepareFrames::dispatch($shot->id);
        \Illuminate\Support\Facades\Queue::assertPushedOn('ahead', \App\Work\PrepareFrames::class);
        $this->app->call([new \App\Work\PrepareFrames($shot->id), 'handle']);
        self::assertCount(3, glob("{$this->folder}/cache/frames/*/96x64/*", GLOB_ONLYDIR) ?: []);
    }

    public function test_what_ended_ffmpeg_from_outside_says_nothing_of_the_file(): void
    {
        $job = Job::create(['name' => 'Test']);
        $shot = Shot::create(['job_id' => $job->id, 'name' => 'a', 'state' => ShotState::Reading]);
        $upload = Upload::create(['job_id' => $job->id, 'name' => 'a.mkv', 'size' => 9, 'shot_id' => $shot->id]);
        copy($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 6), $upload->path());
        $path = (string) getenv('PATH');
        mkdir("{$this->folder}/bin");
        file_put_contents("{$this->folder}/bin/ffprobe", "#!/bin/sh\nkill -9 $$\n");
        chmod("{$this->folder}/bin/ffprobe", 0755);
        $offered = new \ReflectionProperty(Jail::class, 'offered');
        $offered->setValue(null, false);
        putenv("PATH={$this->folder}/bin:{$path}");
        try {
            $this->app->call([new ReadFootage($shot->id), 'handle']);
            self::fail('It was read.');
        } catch (FfmpegInterrupted) {
            self::assertSame(ShotState::Reading, $shot->refresh()->state);
        } finally {
            putenv("PATH={$path}");
            $offered->setValue(null, null);
        }
        $this->app->call([new ReadFootage($shot->id), 'handle']);
        self::assertSame([ShotState::Ready, 5], [$shot->refresh()->state, $shot->to]);
    }
}
