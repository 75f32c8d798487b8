<?php

declare(strict_types=1);

namespace Tests\App;

use App\Deliveries\Format;
use App\Models\Delivery;
use App\Models\DeliveryState;
use App\Models\Shot;
use Cossel\Core\Colour\CdlFile;
use Cossel\Core\Colour\Cube;
use Cossel\Core\Outline\SvgOutline;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Storage;

/** Linear light, sizes, and what is written beside a delivered film. */
final class BesideTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('gh010.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv444p16le', '-color_range', 'tv', '-colorspace', 'bt709', '-color_trc', 'bt709', '-color_primaries', 'bt709', '-metadata', 'timecode=01:00:00:00'], '96x64', 12));
        $recipe = $this->recipe($this->shot);
        $recipe['base'] = [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5], ['id' => 'w', 'kind' => 'colour', 'temperature' => 10]];
        $recipe['areas'] = [['id' => 'a', 'name' => 'Cheek', 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.75, 0.5], 'radii' => [0.2, 0.2], 'featherOut' => 0.1]]], 'live' => ['from' => 0, 'to' => 11], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 1]]]];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => $recipe])->assertOk();
    }

    /** @param array<string, mixed> $wishes */
    private function deliver(array $wishes): Delivery
    {
        $delivery = Delivery::findOrFail($this->postJson("/api/shots/{$this->shot->id}/deliveries", ['format' => 'vp9', 'from' => 3, 'to' => 5, ...$wishes])->assertSuccessful()->json('id'));
        self::assertSame(DeliveryState::Done, $delivery->state, (string) $delivery->error);

        return $delivery;
    }

    private function unpacked(string $file): string
    {
        $zip = new \ZipArchive();
        self::assertTrue($zip->open(Storage::disk('data')->path($file)));
        $folder = "{$this->folder}/unpacked" . hash('crc32', $file);
        $zip->extractTo($folder);

        return $folder;
    }

    /** @return list<float> green, then blue, then red */
    private function floats(string $exr): array
    {
        return array_values(unpack('g*', $this->ffmpeg(['-i', $exr, '-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-'])) ?: []);
    }

    public function test_linear_light_is_the_decoded_treatment_with_what_is_beyond_white(): void
    {
        $master = Storage::disk('data')->path((string) $this->deliver(['format' => 'ffv1'])->file);
        $codes = array_values(unpack('v*', $this->ffmpeg(['-i', $master, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'yuv444p16le', '-'])) ?: []);
        $folder = $this->unpacked((string) $this->deliver(['format' => 'exr'])->file);
        self::assertSame(['000003.exr', '000004.exr', '000005.exr', 'sequence.json'], array_map(basename(...), glob("{$folder}/*") ?: []));
        $linear = $this->floats("{$folder}/000003.exr");
        $n = 96 * 64;
        $beyond = 0;
        for ($i = 0; $i < $n; $i += 7) {
            [$y, $u, $v] = [($codes[$i] - 4096) / 56064, ($codes[$i + $n] - 32768) / 57344, ($codes[$i + 2 * $n] - 32768) / 57344];
            $red = $y + 1.5748 * $v;
            $wanted = ($red < 0 ? -1 : 1) * abs($red) ** 2.4;
            // Where the master's codes end, only the floating point goes on.
            if ($codes[$i] < 65000 && abs($codes[$i + $n] - 32768) < 32000 && abs($codes[$i + 2 * $n] - 32768) < 32000) {
                self::assertEqualsWithDelta($wanted, $linear[$i + 2 * $n], 0.0015 * max(1.0, abs($wanted)), "{$i}");
            }
            $beyond += (int) ($linear[$i] > 1.3);
        }
        self::assertGreaterThan(10, $beyond);
        self::assertSame('01:00:00:03', json_decode((string) file_get_contents("{$folder}/sequence.json"), true)['timecode']);
    }

    public function test_pictures_can_be_smaller_and_say_what_they_are(): void
    {
        $delivery = $this->deliver(['format' => 'tiff', 'height' => 360, 'burn' => true]);
        $folder = $this->unpacked((string) $delivery->file);
        self::assertSame([540, 360], array_slice((array) getimagesizefromstring($this->ffmpeg(['-i', "{$folder}/000004.tif", '-f', 'image2pipe', '-c:v', 'png', '-'])), 0, 2));
        $plain = $this->unpacked((string) $this->deliver(['format' => 'tiff', 'height' => 360])->file);
        $of = fn(string $from, string $crop): string => md5($this->ffmpeg(['-i', "{$from}/000004.tif", '-vf', "crop={$crop}", '-f', 'rawvideo', '-']));
        self::assertNotSame($of($plain, '540:40:0:320'), $of($folder, '540:40:0:320'));
        self::assertSame($of($plain, '540:280:0:0'), $of($folder, '540:280:0:0'));
        $this->postJson("/api/shots/{$this->shot->id}/deliveries", ['format' => 'exr', 'from' => 0, 'to' => 1, 'height' => 360])->assertStatus(409)->assertJsonPath('message', "OpenEXR half, numbered, zipped is written as it is rendered: in the footage's own size, with nothing burnt in.");
        $this->postJson("/api/shots/{$this->shot->id}/deliveries", ['format' => 'vp9', 'from' => 0, 'to' => 1, 'height' => 99])->assertStatus(422);
    }

    public function test_what_other_programs_need_is_beside_and_right(): void
    {
        $delivery = $this->deliver(['mattes' => 'png', 'areas' => ['a'], 'beside' => ['recipe', 'tracks', 'outlines', 'cdl', 'cube33']]);
        $folder = $this->unpacked((string) $delivery->beside);
        $this->get("/api/deliveries/{$delivery->id}/beside")->assertOk()->assertDownload('gh010_r2_beside.zip');
        $matte = $this->ffmpeg(['-i', "{$folder}/mattes/a/000004.png", '-f', 'rawvideo', '-pix_fmt', 'gray16le', '-']);
        $codes = array_values(unpack('v*', $matte) ?: []);
        self::assertSame([96 * 64, 65535, 0], [count($codes), $codes[32 * 96 + 48], $codes[0]]);
        self::assertCount(3, glob("{$folder}/mattes/a/*.png") ?: []);
        $table = array_map(str_getcsv(...), file("{$folder}/tracks.csv", FILE_IGNORE_NEW_LINES) ?: []);
        self::assertSame(['a', 'Cheek', '3', '0.750000', '0.500000'], array_slice($table[1], 0, 5));
        self::assertCount(4, $table);
        self::assertSame('tracks/1', json_decode((string) file_get_contents("{$folder}/tracks.json"), true)['cossel']);
        [$path] = SvgOutline::read((string) file_get_contents("{$folder}/outlines/a/000005.svg"));
        self::assertEqualsWithDelta(0.75, array_sum(array_map(static fn($p): float => $p->x, $path)) / count($path), 1e-4);
        self::assertEqualsWithDelta(2 ** (0.5 / 2.4), CdlFile::read((string) file_get_contents("{$folder}/base.ccc"))[0]['slope'][0], 1e-5);
        $cube = Cube::parse((string) file_get_contents("{$folder}/cube33.cube"));
        self::assertSame(33, $cube->size);
        $about = (string) file_get_contents("{$folder}/left out.txt");
        self::assertStringContainsString('base.ccc: colour cannot be said as a decision list.', $about);
        self::assertStringContainsString('cube33.cube: what areas do is not in this table.', $about);
        self::assertFileExists("{$folder}/gh010_r2.recipe.json");
        self::assertStringContainsString("{$delivery->beside_sha256}  gh010_r2_beside.zip\n", (string) $this->get("/api/jobs/{$this->shot->job_id}/deliveries.sha256")->getContent());
        $this->get("/api/deliveries/{$this->deliver([])->id}/beside")->assertStatus(409);
    }

    public function test_mattes_in_floating_point_have_the_same_values(): void
    {
        $of = fn(string $as, string $file, string $pixels): string => $this->ffmpeg(['-i', $this->unpacked((string) $this->deliver(['mattes' => $as])->beside) . "/mattes/a/{$file}", '-f', 'rawvideo', '-pix_fmt', $pixels, '-']);
        $codes = array_values(unpack('v*', $of('tiff', '000003.tif', 'gray16le')) ?: []);
        foreach (array_values(unpack('g*', $of('exr', '000003.exr', 'grayf32le')) ?: []) as $i => $value) {
            self::assertEqualsWithDelta($codes[$i] / 65535, $value, 0.001);
        }
    }

    public function test_a_format_that_ffmpeg_lacks_is_told_and_not_begun(): void
    {
        Cache::put('encoders', ['ffv1', 'png'], 60);
        $this->postJson("/api/shots/{$this->shot->id}/deliveries", ['format' => 'prores', 'from' => 0, 'to' => 1])->assertStatus(409)->assertJsonPath('message', 'ProRes 422 HQ, QuickTime cannot be written here: the ffmpeg that is installed has no encoder “prores_ks”.');
        $there = array_column($this->getJson('/api/formats')->assertOk()->json(), 'there', 'name');
        self::assertSame([true, false], [$there['ffv1'], $there['av1']]);
        self::assertSame(0, Delivery::count());
        self::assertNull(Format::ofFile('x.avi'));
    }
}
