<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\FrameReader;
use App\Footage\PlainPicture;
use App\Footage\RefusedFootage;
use App\Footage\ServerFolders;
use App\Models\Shot;
use App\Models\ShotState;
use PHPUnit\Framework\Attributes\DataProvider;

/** Sequences of pictures in every form, zipped and in folders of the server. */
final class SequenceTest extends AppTestCase
{
    private string $pictures;

    protected function setUp(): void
    {
        parent::setUp();
        $this->pictures = "{$this->folder}/pictures";
        mkdir($this->pictures);
    }

    private function zipped(): string
    {
        $zip = new \ZipArchive();
        $zip->open($file = "{$this->folder}/sequence.zip", \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        foreach (glob("{$this->pictures}/*") ?: [] as $each) {
            $zip->addFile($each, basename($each));
        }
        $zip->close();

        return $file;
    }

    /**
     * @param list<float> $lights  linear, of a row of pixels that is repeated; green, and as much blue, half as much red
     * @param list<string> $options
     */
    private function exr(array $lights, int $frames = 2, array $options = []): void
    {
        $plane = static fn(float $share): string => str_repeat(pack('g*', ...array_map(static fn(float $l): float => $l * $share, $lights)), 16);
        file_put_contents("{$this->folder}/raw", str_repeat($plane(1) . $plane(1) . $plane(0.5), $frames));
        $this->ffmpeg(['-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-s', count($lights) . 'x16', '-r', '24000/1001', '-i', "{$this->folder}/raw", '-c:v', 'exr', ...$options, '-start_number', '100', "{$this->pictures}/a%04d.exr"]);
    }

    /** @return array{list<float>, Shot} linear green of the first row of the first frame, and the shot */
    private function greens(int $width): array
    {
        $shot = $this->shot($this->zipped());
        foreach ((new FrameReader())->frames($shot->readyFootage()->file(), 0, 0) as $frame) {
            $row = $frame->window($frame->format->rect())->g;

            return [array_map($frame->format->transfer->linear(...), array_slice($row, 0, $width)), $shot];
        }
        self::fail('no frame');
    }

    public function test_linear_light_comes_in_as_it_is_also_above_white(): void
    {
        $lights = [0.0, 0.001, 0.01, 0.05, 0.18, 0.5, 0.9, 1.0, 1.1, 1.2, -0.004, 0.3, 0.4, 0.6, 0.7, 0.8];
        foreach ([['-format', 'half'], ['-format', 'float']] as $options) {
            $this->exr($lights, options: $options);
            [$greens, $shot] = $this->greens(16);
            foreach ($lights as $i => $light) {
                self::assertEqualsWithDelta($light, $greens[$i], max(2e-4, 0.0015 * abs($light)), "{$light}");
            }
            self::assertSame([ShotState::Ready, []], [$shot->state, $shot->readyFootage()->info()->damage]);
        }
    }

    public function test_light_beyond_what_can_be_kept_is_told(): void
    {
        $this->exr([...array_fill(0, 15, 0.5), 4.0]);
        $footage = $this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false);
        self::assertSame(['On 2 of 2 frames there is light of more than 1.2 times white; it is cut off there.'], $footage->info()->damage);
    }

    public function test_other_primaries_channels_and_forms_are_refused_by_name(): void
    {
        $this->exr(array_fill(0, 16, 0.5), 1);
        $file = "{$this->pictures}/a0100.exr";
        $plain = (string) file_get_contents($file);
        $with = static fn(string $attribute): string => substr($plain, 0, 8) . $attribute . substr($plain, 8);
        $primaries = static fn(float ...$v): string => "chromaticities\0chromaticities\0" . pack('V', 32) . pack('g*', ...$v);
        // Offsets of the lines move with the head, which the decoder notices; the head is read before.
        foreach ([
            [$with($primaries(0.708, 0.292, 0.170, 0.797, 0.131, 0.046, 0.3127, 0.3290)), 'The colour primaries “Rec.2020” are not handled yet. Bring footage in with BT.709 primaries.'],
            [$with($primaries(0.713, 0.293, 0.165, 0.830, 0.128, 0.044, 0.32168, 0.33767)), 'The colour primaries “ACES AP1” are not handled yet. Bring footage in with BT.709 primaries.'],
            [$with($primaries(0.5, 0.3, 0.2, 0.7, 0.1, 0.1, 0.3, 0.3)), 'The colour primaries “0.5 0.3 0.2 0.7 0.1 0.1 0.3 0.3” are not handled yet. Bring footage in with BT.709 primaries.'],
            [str_replace("\0R\0", "\0Z\0", $plain), 'a0100.exr has no channel R. That is not handled.'],
            [substr_replace($plain, pack('V', 0x1002), 4, 4), 'a0100.exr has several parts or deep pixels. That is not handled.'],
        ] as [$bytes, $sentence]) {
            file_put_contents($file, $bytes);
            $said = null;
            try {
                \App\Footage\ExrHeader::read($file, 'a0100.exr');
            } catch (RefusedFootage $reason) {
                $said = $reason->getMessage();
            }
            self::assertSame($sentence, $said);
        }
        file_put_contents($file, $with($primaries(0.64, 0.33, 0.30, 0.60, 0.15, 0.06, 0.3127, 0.3290) . "timeCode\0timecode\0" . pack('V', 8) . pack('VV', 0x01020304, 0)));
        $header = \App\Footage\ExrHeader::read($file, 'a0100.exr');
        self::assertSame(['24000/1001', '01:02:03:04', null], [$header->rate, $header->timecode, $header->transfer]);
    }

    public function test_dpx_is_read_as_video_with_its_rate_and_timecode_and_logarithms_are_refused(): void
    {
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=64x48:rate=25', '-frames:v', '3', '-pix_fmt', 'gbrp10le', '-c:v', 'dpx', "{$this->pictures}/s%04d.dpx"]);
        $head = function (int $transfer): void {
            foreach (glob("{$this->pictures}/*.dpx") ?: [] as $i => $file) {
                $bytes = substr_replace((string) file_get_contents($file), chr($transfer), 801, 1);
                $order = str_starts_with($bytes, 'SDPX') ? ['N', 'G'] : ['V', 'g'];
                $bytes = substr_replace($bytes, pack($order[0], 0x10000000 + $i), 1920, 4);
                file_put_contents($file, substr_replace($bytes, pack($order[1], 25.0), 1940, 4));
            }
        };
        $head(6);
        $shot = $this->shot($this->zipped());
        $info = $shot->readyFootage()->info();
        self::assertSame([3, '25/1', '10:00:00:00', 'bt709', []], [$info->frames(), $info->rate, $info->timecode, $info->tags['transfer'], $info->damage]);
        $source = $this->ffmpeg(['-i', "{$this->pictures}/s0002.dpx", '-f', 'rawvideo', '-pix_fmt', 'gbrp16le', '-']);
        foreach ((new FrameReader())->frames($shot->readyFootage()->file(), 1, 1) as $frame) {
            self::assertSame(md5($source), md5($frame->bytes));
        }
        $head(2);
        self::assertSame(['The DPX files call their codes linear; they are taken as Rec.709 video.'], $this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false)->info()->damage);
        $head(3);
        $this->expectExceptionMessage('The transfer “logarithmic” is not handled yet.');
        $this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false);
    }

    public function test_jpeg_pictures_become_footage_and_what_lies_beside_tells_the_rate(): void
    {
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=64x48:rate=25', '-frames:v', '3', '-q:v', '2', "{$this->pictures}/s%04d.jpg"]);
        file_put_contents("{$this->pictures}/sequence.json", json_encode(['rate' => '30000/1001', 'timecode' => '10:00:00;02']));
        $info = $this->shot($this->zipped())->readyFootage()->info();
        self::assertSame([3, '30000/1001', '10:00:00;02', 'iec61966-2-1'], [$info->frames(), $info->rate, $info->timecode, $info->tags['transfer']]);
        file_put_contents("{$this->pictures}/sequence.json", '{"rate": "0/0"}');
        file_put_contents("{$this->pictures}/s0009.png", 'x');
        $this->expectExceptionMessage('its pictures are of different types');
        $this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false);
    }

    /** @return iterable<string, array{string, list<string>, bool}> a type, options, and whether rows can be counted */
    public static function types(): iterable
    {
        yield 'EXR, a row each' => ['exr', ['-pix_fmt', 'gbrpf32le', '-compression', 'zip1'], true];
        yield 'EXR, 16 rows a block' => ['exr', ['-pix_fmt', 'gbrpf32le', '-compression', 'zip16'], true];
        yield 'EXR, not packed' => ['exr', ['-pix_fmt', 'gbrpf32le', '-compression', 'none'], true];
        yield 'DPX, 10 bit' => ['dpx', ['-pix_fmt', 'gbrp10be'], false];
        yield 'DPX, 16 bit' => ['dpx', ['-pix_fmt', 'rgb48be'], false];
        yield 'JPEG' => ['jpg', ['-q:v', '2'], false];
        yield 'PNG' => ['png', [], false];
        yield 'TIFF' => ['tiff', ['-compression_algo', 'raw'], false];
    }

    /** @param list<string> $options */
    #[DataProvider('types')]
    public function test_a_picture_that_ends_early_is_named_and_whole_ones_are_not(string $type, array $options, bool $counted): void
    {
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24', '-frames:v', '5', ...$options, "{$this->pictures}/s%04d.{$type}"]);
        $damage = fn(): array => array_values(array_filter($this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false)->info()->damage, static fn(string $told): bool => !str_contains($told, 'call their codes linear')));
        self::assertSame([], $damage());
        $file = "{$this->pictures}/s0003.{$type}";
        $whole = (string) file_get_contents($file);
        foreach ([0.5, 0.9, 1 - 20 / strlen($whole)] as $share) {
            file_put_contents($file, substr($whole, 0, (int) (strlen($whole) * $share)));
            $told = $damage();
            self::assertCount(1, $told);
            self::assertStringContainsString("s0003.{$type}", $told[0]);
            if ($counted) {
                self::assertMatchesRegularExpression('/^s0003\.\w+ \((\d+) of 64 rows\) ends early; what is missing may be black\.$/', $told[0]);
                preg_match('/\((\d+) of/', $told[0], $m);
                // Packed rows are not all as long.
                self::assertEqualsWithDelta(64 * $share, (int) ($m[1] ?? -1), str_contains(implode(' ', $options), 'zip') ? 28 : 3);
                self::assertLessThan(64, (int) ($m[1] ?? 64));
            }
        }
    }

    /** Chunks of a PNG and strips of a TIFF may end just where the file does, and nothing complains while it is decoded. */
    public function test_a_file_that_ends_between_two_pieces_ends_early(): void
    {
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=320x200:rate=24', '-frames:v', '2', "{$this->pictures}/s%04d.png"]);
        $png = (string) file_get_contents("{$this->pictures}/s0002.png");
        file_put_contents("{$this->pictures}/s0002.png", substr($png, 0, (int) strrpos($png, 'IEND') - 4));
        self::assertSame(0, PlainPicture::read("{$this->pictures}/s0002.png", 'png')->rows);
        self::assertNull(PlainPicture::read("{$this->pictures}/s0001.png", 'png')->rows);
        self::assertSame(['s0002.png ends early; what is missing may be black.'], $this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false)->info()->damage);
        // A TIFF whose directory comes first, with one strip of two in it.
        $tiff = static fn(int $bytes): string => 'II' . pack('vV', 42, 8) . pack('v', 4) . pack('vvVV', 256, 4, 1, 4) . pack('vvVV', 257, 4, 1, 4) . pack('vvVV', 273, 4, 2, 62) . pack('vvVV', 279, 3, 2, 8 + 8 * 65536) . pack('V', 0) . pack('VV', 70, 78) . str_repeat('x', $bytes);
        foreach ([16 => null, 15 => 0, 3 => 0] as $bytes => $rows) {
            file_put_contents("{$this->pictures}/t.tiff", $tiff($bytes));
            clearstatcache();
            self::assertSame($rows, PlainPicture::read("{$this->pictures}/t.tiff", 'tiff')->rows, (string) $bytes);
        }
    }

    #[DataProvider('types')]
    public function test_a_picture_of_another_size_is_refused_by_name(string $type): void
    {
        $format = ['exr' => ['-pix_fmt', 'gbrpf32le'], 'dpx' => ['-pix_fmt', 'rgb48be']][$type] ?? [];
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24', '-frames:v', '3', ...$format, "{$this->pictures}/s%04d.{$type}"]);
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=96x62:rate=24', '-frames:v', '1', ...$format, '-y', '-update', '1', "{$this->pictures}/s0002.{$type}"]);
        $this->expectExceptionMessage("s0002.{$type} is 96 x 62, and the pictures before it are 96 x 64");
        $this->app->make(\App\Footage\Intake::class)->take($this->zipped(), 'x.zip', false);
    }

    public function test_two_files_of_one_name_in_an_archive_are_refused(): void
    {
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24', '-frames:v', '2', "{$this->pictures}/s%04d.png"]);
        $zip = (string) file_get_contents($this->zipped());
        file_put_contents("{$this->folder}/twice.zip", str_replace('s0002.png', 's0001.png', $zip));
        $this->expectExceptionMessage('two of its files are called s0001.png');
        $this->app->make(\App\Footage\Intake::class)->take("{$this->folder}/twice.zip", 'x.zip', false);
    }

    public function test_an_ogg_that_ends_early_is_told(): void
    {
        $film = $this->film('a.ogv', ['-c:v', 'libtheora', '-pix_fmt', 'yuv420p'], '96x64', 40);
        $take = fn(string $file): array => $this->app->make(\App\Footage\Intake::class)->take($file, 'a.ogv', false)->info()->damage;
        self::assertSame([], $take($film));
        $whole = (string) file_get_contents($film);
        $starts = [];
        for ($at = -1; ($at = strpos($whole, 'OggS', $at + 1)) !== false;) {
            $starts[] = $at;
        }
        // At the end of a page, and in the middle of one.
        foreach ([end($starts), end($starts) + 100] as $i => $length) {
            file_put_contents("{$this->folder}/short{$i}.ogv", substr($whole, 0, $length));
            self::assertMatchesRegularExpression('/^The file ends early: it breaks off after frame \d+, without the page that is marked as its last\.$/', implode(' ', $take("{$this->folder}/short{$i}.ogv")));
        }
    }

    public function test_footage_is_taken_from_folders_of_the_server_and_from_nowhere_else(): void
    {
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=64x48:rate=24', '-frames:v', '4', "{$this->pictures}/f%04d.png"]);
        $film = $this->film('gh010.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '64x48', 5);
        mkdir("{$this->folder}/reels");
        rename($film, "{$this->folder}/reels/gh010.mkv");
        rename($this->pictures, "{$this->folder}/reels/gh020");
        file_put_contents("{$this->folder}/secret.mkv", 'x');
        symlink("{$this->folder}/secret.mkv", "{$this->folder}/reels/way out.mkv");
        symlink($this->folder, "{$this->folder}/reels/up");
        config(['cossel.folders' => ["{$this->folder}/reels", "{$this->folder}/none"]]);
        self::assertSame(['reels'], array_column($this->getJson('/api/folders')->assertOk()->json(), 'path'));
        self::assertSame([['gh010.mkv', 'film'], ['gh020', 'sequence']], array_map(static fn(array $f): array => [$f['name'], $f['kind']], $this->getJson('/api/folders?path=reels')->assertOk()->json()));
        $job = \App\Models\Job::create(['name' => 'Test']);
        $shot = Shot::findOrFail($this->postJson("/api/jobs/{$job->id}/folder", ['path' => 'reels/gh010.mkv', 'from' => 1, 'to' => 3])->assertSuccessful()->json('id'));
        self::assertSame([ShotState::Ready, 1, 3, 'gh010'], [$shot->state, $shot->from, $shot->to, $shot->name]);
        $shot = Shot::findOrFail($this->postJson("/api/jobs/{$job->id}/folder", ['path' => 'reels/gh020'])->assertSuccessful()->json('id'));
        self::assertSame([ShotState::Ready, 0, 3], [$shot->state, $shot->from, $shot->to]);
        self::assertFileExists("{$this->folder}/reels/gh010.mkv");
        self::assertCount(4, glob("{$this->folder}/reels/gh020/*.png") ?: []);
        symlink("{$this->folder}/secret.mkv", "{$this->folder}/reels/gh020/f0009.png");
        $this->postJson("/api/jobs/{$job->id}/folder", ['path' => 'reels/gh020'])->assertStatus(422)->assertJsonPath('message', 'reels/gh020/f0009.png is not inside the folders that this server may read from.');
        foreach (['reels/../secret.mkv', 'reels/way out.mkv', 'reels/up/secret.mkv', '/etc/passwd', 'none/x', 'reels/no.mkv'] as $path) {
            $this->postJson("/api/jobs/{$job->id}/folder", ['path' => $path])->assertStatus(422)->assertJsonPath('message', "{$path} is not inside the folders that this server may read from.");
        }
        $this->getJson('/api/folders?path=reels/up')->assertStatus(422);
        self::assertSame(2, Shot::count());
        self::assertSame([], glob("{$this->folder}/data/uploads/*") ?: []);
        config(['cossel.folders' => []]);
        self::assertSame([], ServerFolders::list(''));
    }

    private function reels(): string
    {
        mkdir($reels = "{$this->folder}/reels");
        mkdir("{$this->folder}/secret");
        config(['cossel.folders' => [$reels], 'limits.footage.silent_seconds' => 2]);

        return $reels;
    }

    /** A named pipe never ends being opened, for whoever waits for what would be written to it. */
    public function test_what_is_no_file_is_not_offered_and_keeps_nobody_waiting(): void
    {
        $reels = $this->reels();
        mkdir("{$reels}/row");
        posix_mkfifo("{$reels}/x.mkv", 0600);
        posix_mkfifo("{$reels}/row/a1.png", 0600);
        self::assertSame([['row', 'folder']], array_map(static fn(array $f): array => [$f['name'], $f['kind']], $this->getJson('/api/folders?path=reels')->assertOk()->json()));
        $job = \App\Models\Job::create(['name' => 'Test']);
        $this->postJson("/api/jobs/{$job->id}/folder", ['path' => 'reels/x.mkv'])->assertStatus(422)->assertJsonPath('message', 'reels/x.mkv is neither a file nor a folder that can be read.');
        $began = microtime(true);
        foreach (['x.mkv' => 'x.mkv', 'row' => 'row/a1.png'] as $source => $named) {
            try {
                ServerFolders::fetch("{$reels}/{$source}", "{$this->folder}/fetched");
                self::fail('It was fetched.');
            } catch (RefusedFootage $refusal) {
                self::assertSame("{$named} is neither a file nor a folder that can be read.", $refusal->getMessage());
            }
        }
        self::assertLessThan(2.0, microtime(true) - $began);
    }

    public function test_what_is_put_in_the_place_of_a_source_brings_nothing_from_outside(): void
    {
        $reels = $this->reels();
        file_put_contents("{$this->folder}/secret/a.mkv", 'a secret');
        file_put_contents("{$this->folder}/secret/a1.png", 'a secret');
        mkdir("{$reels}/row");
        file_put_contents("{$reels}/a.mkv", 'a film');
        file_put_contents("{$reels}/row/a1.png", 'a picture');
        $sources = [ServerFolders::source('reels/a.mkv'), ServerFolders::source('reels/row')];
        ServerFolders::fetch($sources[0], "{$this->folder}/fetched");
        self::assertSame('a film', file_get_contents("{$this->folder}/fetched"));
        unlink("{$reels}/a.mkv");
        symlink("{$this->folder}/secret/a.mkv", "{$reels}/a.mkv");
        rename("{$reels}/row", "{$reels}/moved");
        symlink("{$this->folder}/secret", "{$reels}/row");
        foreach (['a.mkv', 'row/a1.png'] as $i => $named) {
            try {
                ServerFolders::fetch($sources[$i], "{$this->folder}/stolen{$i}");
                self::fail('It was fetched.');
            } catch (RefusedFootage $refusal) {
                self::assertSame("{$named} is not inside the folders that this server may read from.", $refusal->getMessage());
            }
        }
        self::assertFileDoesNotExist("{$this->folder}/stolen0");
        self::assertSame([], glob("{$this->folder}/stolen1/*") ?: []);
    }

    public function test_a_source_that_says_nothing_is_given_up(): void
    {
        $reels = $this->reels();
        file_put_contents("{$reels}/a.mkv", str_repeat('x', 3_000_000));
        // Somebody else holds where it would be written, so that nothing comes.
        posix_mkfifo("{$this->folder}/never", 0600);
        $this->expectExceptionMessage('a.mkv could not be fetched: nothing of it came for 2 seconds.');
        ServerFolders::fetch("{$reels}/a.mkv", "{$this->folder}/never");
    }
}
