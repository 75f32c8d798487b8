<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Delivery;
use App\Models\DeliveryPart;
use App\Models\DeliveryState;
use App\Models\Shot;
use App\Work\RenderPart;
use Illuminate\Support\Facades\Queue;
use Symfony\Component\Process\Process;

final class DeliveryTest extends AppTestCase
{
    private function clip(): Shot
    {
        $file = "{$this->folder}/clip.mkv";
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24:duration=1.25', '-f', 'lavfi', '-i', 'sine=duration=1.25', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv', '-metadata', 'timecode=01:00:00:00', '-c:a', 'libopus', $file]);

        return $this->shot($file);
    }

    private function treat(Shot $shot): void
    {
        $recipe = $this->recipe($shot);
        $recipe['areas'] = [['id' => 'a', 'name' => 'A', 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.7, 0.5], 'radii' => [0.2, 0.2], 'featherOut' => 0.1]]], 'live' => ['from' => 0, 'to' => 29], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 0.5]]]];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => $recipe])->assertOk();
    }

    private function deliver(Shot $shot, string $format, int $from = 0, int $to = 29): Delivery
    {
        $id = $this->postJson("/api/shots/{$shot->id}/deliveries", ['format' => $format, 'from' => $from, 'to' => $to])->assertSuccessful()->json('id');

        return Delivery::findOrFail($id);
    }

    /** Seconds of sound that are really in a file. */
    private function soundOf(string $file): float
    {
        return strlen($this->ffmpeg(['-i', $file, '-map', '0:a:0', '-ac', '1', '-ar', '48000', '-f', 's16le', '-'])) / 96000;
    }

    /** @return array<string, mixed> */
    private function probed(Delivery $delivery): array
    {
        return json_decode((new Process(['ffprobe', '-v', 'error', '-count_frames', '-show_streams', '-show_format', '-of', 'json', "{$this->folder}/data/{$delivery->file}"]))->mustRun()->getOutput(), true);
    }

    public function test_an_untreated_master_is_identical_to_a_plain_decode(): void
    {
        $shot = $this->clip();
        $delivery = $this->deliver($shot, 'ffv1');
        self::assertSame(DeliveryState::Done, $delivery->state, (string) $delivery->error);
        $format = $shot->readyFootage()->info()->format();
        $convert = (new \App\Footage\Sheet([$format]))->filter();
        self::assertSame(
            md5($this->ffmpeg(['-i', "{$this->folder}/clip.mkv", '-vf', $convert, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-'])),
            md5($this->ffmpeg(['-i', "{$this->folder}/data/{$delivery->file}", '-fps_mode', 'passthrough', '-f', 'rawvideo', '-'])),
        );
        $video = $this->probed($delivery)['streams'][0];
        self::assertSame(['ffv1', 'yuv444p16le', '30', 'bt709', 'bt709', 'bt709', 'tv', '24/1'], [$video['codec_name'], $video['pix_fmt'], $video['nb_read_frames'], $video['color_space'], $video['color_transfer'], $video['color_primaries'], $video['color_range'], $video['r_frame_rate']]);
    }

    public function test_an_order_sent_again_is_placed_once(): void
    {
        $shot = $this->clip();
        $order = ['format' => 'ffv1', 'from' => 0, 'to' => 2, 'slip' => 'a1b2c3d4 ffv1 0 2'];
        $ids = array_map(fn(): int => $this->postJson("/api/shots/{$shot->id}/deliveries", $order)->assertSuccessful()->json('id'), [1, 2]);
        self::assertSame($ids[0], $ids[1]);
        self::assertNotSame($ids[0], $this->deliver($shot, 'ffv1', 0, 2)->id);
        self::assertSame(2, Delivery::count());
        $this->postJson("/api/shots/{$shot->id}/deliveries", ['slip' => 5] + $order)->assertStatus(422);
    }

    public function test_every_format_has_its_frames_sound_and_timecode(): void
    {
        $shot = $this->clip();
        $this->treat($shot);
        foreach (['ffv1' => ['ffv1', 'yuv444p16le', 'pcm_s24le'], 'ffv1-10' => ['ffv1', 'yuv444p10le', 'pcm_s24le'], 'prores' => ['prores', 'yuv422p10le', 'pcm_s24le'], 'av1' => ['av1', 'yuv420p10le', 'opus'], 'vp9' => ['vp9', 'yuv420p', 'opus']] as $format => [$codec, $pixels, $sound]) {
            $delivery = $this->deliver($shot, $format, 6, 23);
            self::assertSame(DeliveryState::Done, $delivery->state, (string) $delivery->error);
            $probed = $this->probed($delivery);
            ['video' => $video, 'audio' => $audio] = array_column($probed['streams'], null, 'codec_type');
            self::assertSame([$codec, $pixels, '18', 'bt709', $sound], [$video['codec_name'], $video['pix_fmt'], $video['nb_read_frames'], $video['color_space'], $audio['codec_name']], $format);
            self::assertEqualsWithDelta(0.75, (float) $probed['format']['duration'], 0.06, $format);
            self::assertEqualsWithDelta(0.75, $this->soundOf("{$this->folder}/data/{$delivery->file}"), 0.05, $format);
            $tags = array_change_key_case(($video['tags'] ?? []) + ($probed['format']['tags'] ?? []), CASE_LOWER);
            self::assertSame('01:00:00:06', $tags['timecode'] ?? null, $format);
            self::assertSame([], glob("{$this->folder}/data/deliveries/*.work") ?: []);
        }
    }

    public function test_a_sequence_is_numbered_as_in_the_source_and_carries_its_sound_beside(): void
    {
        $shot = $this->clip();
        $delivery = $this->deliver($shot, 'png', 6, 8);
        $zip = new \ZipArchive();
        self::assertTrue($zip->open("{$this->folder}/data/{$delivery->file}"));
        $names = [];
        for ($i = 0; $i < $zip->numFiles; ++$i) {
            $names[] = $zip->getNameIndex($i);
        }
        sort($names);
        self::assertSame(['000006.png', '000007.png', '000008.png', 'sequence.json', 'sound.wav'], $names);
        self::assertSame(16, ord(((string) $zip->getFromName('000007.png'))[24]));
        $this->get("/api/deliveries/{$delivery->id}/file")->assertOk()->assertDownload('clip_r1.zip');
    }

    public function test_a_delivery_broken_off_at_any_place_is_finished_with_nothing_lost_or_doubled(): void
    {
        $shot = $this->clip();
        $this->treat($shot);
        $wanted = md5_file("{$this->folder}/data/" . $this->deliver($shot, 'ffv1')->file);
        Queue::fake();
        $delivery = $this->deliver($shot, 'ffv1');
        Queue::assertPushed(RenderPart::class, 3);
        [$first, $second, $third] = $delivery->parts->all();
        $run = fn(DeliveryPart $part) => $this->app->call([new RenderPart($part->id), 'handle']);
        $run($second);
        // The worker died in the middle of the first part: half a file under another name, some frames counted.
        file_put_contents(RenderPart::file($first) . '.99.part', 'half');
        $first->update(['done' => 5]);
        $run($third);
        $run($second->refresh());
        Queue::assertPushed(\App\Work\FinishDelivery::class, 0);
        $run($first->refresh());
        Queue::assertPushed(\App\Work\FinishDelivery::class, 1);
        $run($first->refresh());
        Queue::assertPushed(\App\Work\FinishDelivery::class, 1);
        $this->app->call([new \App\Work\FinishDelivery($delivery->id), 'handle']);
        $delivery->refresh();
        self::assertSame(DeliveryState::Done, $delivery->state);
        self::assertSame($this->frames("{$this->folder}/data/{$delivery->file}"), $this->frames("{$this->folder}/data/" . Delivery::orderBy('id')->firstOrFail()->file));
        self::assertNotFalse($wanted);
    }

    private function frames(string $file): string
    {
        return $this->ffmpeg(['-i', $file, '-map', '0:v', '-f', 'framemd5', '-']);
    }

    public function test_cancelling_stops_and_going_on_keeps_what_was_rendered(): void
    {
        $shot = $this->clip();
        Queue::fake();
        $delivery = $this->deliver($shot, 'vp9');
        $parts = $delivery->parts->all();
        $this->app->call([new RenderPart($parts[0]->id), 'handle']);
        $this->postJson("/api/deliveries/{$delivery->id}/cancel")->assertJsonPath('state', 'cancelled')->assertJsonPath('done', 12);
        $this->app->call([new RenderPart($parts[1]->id), 'handle']);
        self::assertFalse($parts[1]->refresh()->complete);
        $this->getJson("/api/deliveries/{$delivery->id}/file")->assertStatus(409);
        $this->postJson("/api/deliveries/{$delivery->id}/retry")->assertJsonPath('state', 'rendering');
        Queue::assertPushed(RenderPart::class, 5);
    }
}
