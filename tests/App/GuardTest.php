<?php

declare(strict_types=1);

namespace Tests\App;

use App\Health;
use Illuminate\Support\Facades\DB;

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

    public function test_up_tells_whether_all_is_well(): void
    {
        $report = $this->getJson('/up')->json();
        self::assertSame(['database', 'disk', 'ffmpeg', 'ffi', 'jit', 'server'], array_keys($report['checks']));
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
}
