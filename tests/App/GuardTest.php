<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\FfmpegInterrupted;
use App\Health;
use App\Http\Middleware\InTurn;
use App\Server\Settings;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\ErrorHandler\Error\FatalError;

/** Who may ask, what answers allow, and whether all is well. */
final class GuardTest extends AppTestCase
{
    public function test_only_its_own_scheme_name_and_port_may_change_anything(): void
    {
        $post = fn(array $headers): int => $this->withHeaders($headers)->postJson('http://127.0.0.1:8600/api/jobs', ['name' => 'Job'])->status();
        self::assertSame(201, $post([]));
        self::assertSame(201, $post(['Origin' => 'http://127.0.0.1:8600']));
        foreach (['http://127.0.0.1:9999', 'http://127.0.0.1', 'https://127.0.0.1:8600', 'http://localhost:8600', 'http://example.com', 'null'] as $origin) {
            self::assertSame(403, $post(['Origin' => $origin]), $origin);
        }
        self::assertSame(403, $this->withHeaders(['Origin' => '', 'Sec-Fetch-Site' => 'cross-site'])->postJson('http://127.0.0.1:8600/api/jobs', ['name' => 'Job'])->status());
        self::assertSame(403, $this->getJson('http://cossel.example/api/jobs')->status());
    }

    public function test_pages_from_elsewhere_are_not_answered_either(): void
    {
        $get = fn(string $path, array $headers): int => $this->withHeaders($headers)->get("http://127.0.0.1:8600{$path}")->status();
        foreach (['/api/jobs', '/api/kinds', '/up', '/'] as $path) {
            foreach ([['Origin' => 'http://example.com'], ['Origin' => 'null'], ['Origin' => 'http://127.0.0.1:9999'], ['Sec-Fetch-Site' => 'cross-site', 'Sec-Fetch-Mode' => 'no-cors', 'Sec-Fetch-Dest' => 'image'], ['Sec-Fetch-Site' => 'same-site', 'Sec-Fetch-Mode' => 'cors']] as $headers) {
                $this->flushHeaders();
                self::assertSame(403, $get($path, $headers), $path . json_encode($headers));
            }
        }
        $this->flushHeaders();
        $link = ['Sec-Fetch-Site' => 'cross-site', 'Sec-Fetch-Mode' => 'navigate', 'Sec-Fetch-Dest' => 'document'];
        self::assertSame([200, 403], [$get('/', $link), $get('/api/jobs', $link)]);
        $this->flushHeaders();
        self::assertSame(200, $get('/api/jobs', ['Sec-Fetch-Site' => 'same-origin']));
        $this->flushHeaders();
        $this->get('/api/jobs')->assertHeader('Cross-Origin-Resource-Policy', 'same-origin');
    }

    public function test_a_request_is_what_its_method_says(): void
    {
        $job = $this->postJson('/api/jobs', ['name' => 'Job'])->json('id');
        self::assertSame(405, $this->post("/api/jobs/{$job}?_method=DELETE")->status());
        self::assertSame(405, $this->withHeaders(['X-HTTP-Method-Override' => 'DELETE'])->post("/api/jobs/{$job}")->status());
        self::assertContains($job, array_column($this->getJson('/api/jobs')->json(), 'id'));
    }

    public function test_answers_tell_the_browser_what_they_may_do(): void
    {
        foreach (['/api/jobs', '/api/nonesuch', '/jobs/1'] as $url) {
            $answer = $this->get($url);
            $answer->assertHeader('X-Content-Type-Options', 'nosniff');
            self::assertStringContainsString("frame-ancestors 'none'", (string) $answer->headers->get('Content-Security-Policy'), $url);
            self::assertStringContainsString("default-src 'self'", (string) $answer->headers->get('Content-Security-Policy'), $url);
        }
    }

    public function test_answers_say_how_long_they_are(): void
    {
        foreach (['/api/jobs', '/api/nonesuch', '/jobs/1'] as $url) {
            $answer = $this->get($url);
            self::assertSame((string) strlen((string) $answer->getContent()), $answer->headers->get('Content-Length'), $url);
        }
    }

    public function test_up_tells_whether_all_is_well(): void
    {
        $report = $this->getJson('/up')->json();
        self::assertSame(['database', 'disk', 'ffmpeg', 'ffi', 'jit', 'server', 'workers'], array_keys($report['checks']));
        self::assertSame('well', $report['checks']['database']);
        self::assertSame('well', $report['checks']['ffmpeg']);
        self::assertSame('well', $report['checks']['ffi']);
        DB::table('migrations')->orderByDesc('id')->limit(1)->delete();
        $this->getJson('/up')->assertStatus(503)->assertJson(['well' => false])->assertJsonPath('checks.database', 'The database is of an earlier release. Start Cossel with ./cossel start, which brings it up to date.');
        config(['cossel.cache.path' => '/proc/nowhere']);
        self::assertSame('The cache folder cannot be written to.', Health::report()['disk']);
    }

    public function test_settings_are_all_told_of_in_the_example(): void
    {
        $told = (string) file_get_contents(base_path('.env.example'));
        $used = [];
        foreach ([...glob(config_path('*.php')) ?: [], base_path('cossel')] as $file) {
            preg_match_all('/\bCOSSEL_[A-Z_]+/', (string) file_get_contents($file), $found);
            $used = [...$used, ...$found[0]];
        }
        foreach (array_unique($used) as $setting) {
            self::assertStringContainsString("{$setting}=", $told, $setting);
        }
    }

    /** @return iterable<string, array{\Throwable, int, string}> */
    public static function troubles(): iterable
    {
        $query = static fn(string $said): QueryException => new QueryException('sqlite', 'insert', [], new \PDOException($said));
        yield 'a locked database' => [$query('SQLSTATE[HY000]: General error: 5 database is locked'), 503, 'The database is busy with something else. Nothing of this was saved; try it again.'];
        yield 'a database on a full disk' => [$query('SQLSTATE[HY000]: General error: 13 database or disk is full'), 507, 'The disk is full. What was saved is kept; make room and try it again.'];
        yield 'a file on a full disk' => [new \ErrorException('file_put_contents(): Write of 8192 bytes failed with errno=28 No space left on device'), 507, 'The disk is full. What was saved is kept; make room and try it again.'];
        yield 'ffmpeg ended from outside' => [FfmpegInterrupted::create(), 503, 'ffmpeg was ended from outside. Try it again.'];
        yield 'a picture that takes too long' => [new FatalError('Maximum execution time of 90 seconds exceeded', 0, ['type' => E_ERROR, 'message' => '', 'file' => '', 'line' => 0]), 503, 'This takes longer than 90 seconds. Make the treatment simpler, or look at it smaller.'];
        yield 'a picture that takes too much memory' => [new FatalError('Allowed memory size of 1073741824 bytes exhausted', 0, ['type' => E_ERROR, 'message' => '', 'file' => '', 'line' => 0]), 503, 'This needs more memory than it may have. Make the treatment simpler, or look at it smaller.'];
    }

    #[DataProvider('troubles')]
    public function test_trouble_is_told_in_a_sentence_that_says_what_can_be_done(\Throwable $trouble, int $status, string $sentence): void
    {
        Route::get('api/trouble', static fn() => throw $trouble);
        $this->getJson('/api/trouble')->assertStatus($status)->assertExactJson(['message' => $sentence]);
    }

    public function test_what_computes_pictures_is_known_by_its_address(): void
    {
        $pattern = '#' . InTurn::pattern() . '#';
        foreach (['/api/shots/3/picture', '/api/shots/3/areas/face/pick', '/api/shots/12/poster', '/api/shots/3/person'] as $picture) {
            self::assertMatchesRegularExpression($pattern, $picture);
        }
        foreach (['/api/shots/3/recipe', '/api/shots/3', '/api/jobs', '/api/shots/3/areas/face/tick', '/api/shots/3/picture/x'] as $other) {
            self::assertDoesNotMatchRegularExpression($pattern, $other);
        }
    }

    public function test_the_settings_of_the_server_have_no_gaps(): void
    {
        $this->app->make(Settings::class)->write($this->folder, 8699, 3, 2, 4);
        foreach (['nginx.conf', 'fpm.conf', 'supervisord.conf'] as $form) {
            $written = (string) file_get_contents("{$this->folder}/{$form}");
            self::assertDoesNotMatchRegularExpression('/\{\{\w+\}\}/', $written, $form);
        }
        self::assertStringContainsString('client_max_body_size 4M;', (string) file_get_contents("{$this->folder}/nginx.conf"));
        self::assertStringContainsString('listen 127.0.0.1:8699;', (string) file_get_contents("{$this->folder}/nginx.conf"));
        self::assertStringContainsString('numprocs = 3', (string) file_get_contents("{$this->folder}/supervisord.conf"));
    }
}
