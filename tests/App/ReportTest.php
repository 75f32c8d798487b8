<?php

declare(strict_types=1);

namespace Tests\App;

use App\Judging\Judgings;
use App\Models\Shot;
use App\Reports\Report;

/** Reports: what was done, in words and values, with pictures, and nothing that was not. */
final class ReportTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('gh010.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 12));
        $recipe = $this->recipe($this->shot);
        $recipe['base'] = [['id' => 'b', 'kind' => 'exposure', 'stops' => ['value' => 0, 'keys' => [['frame' => 0, 'value' => -0.25], ['frame' => 11, 'value' => 0.5]]], 'amount' => 0.5], ['id' => 'c', 'kind' => 'colour', 'saturation' => 1.2, 'on' => false]];
        $recipe['areas'] = [['id' => 'a', 'name' => 'Cheek <left>', 'person' => 'ione-marchetti', 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.2], 'featherOut' => 0.1]]], 'live' => ['from' => 0, 'to' => 11], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 1.5, 'side' => 'outside']]]];
        $recipe['areas'][] = ['id' => 'r', 'name' => 'Rim', 'outline' => ['at' => 0, 'shapes' => [['id' => 'q'] + $recipe['areas'][0]['outline']['shapes'][0]]], 'motion' => ['by' => 'ride', 'start' => 0, 'on' => 'a'], 'live' => ['from' => 0, 'to' => 11], 'touches' => [['id' => 'u', 'kind' => 'exposure', 'stops' => -1]]];
        $this->postJson("/api/jobs/{$this->shot->job_id}/people", ['name' => 'Ione Marchetti'])->assertSuccessful();
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => $recipe])->assertOk();
        $this->patchJson("/api/shots/{$this->shot->id}", ['notes' => "Warmer\nthan the last", 'base' => '']);
        $this->postJson("/api/shots/{$this->shot->id}/notes", ['frame' => 7, 'text' => 'Less shine']);
        $this->postJson("/api/shots/{$this->shot->id}/versions", ['name' => 'First look'])->assertSuccessful();
    }

    public function test_a_report_tells_what_was_done_and_shows_it(): void
    {
        $this->app->make(Judgings::class)->begin($this->shot->refresh());
        $this->postJson("/api/shots/{$this->shot->id}/deliveries", ['format' => 'vp9', 'from' => 0, 'to' => 3])->assertSuccessful();
        $html = (string) $this->get("/api/jobs/{$this->shot->job_id}/report.html")->assertOk()->assertDownload('test.html')->getContent();
        foreach (['exposure: stops -0.25 to 0.5, keyed, amount 50 %', 'colour: saturation 1.2 (off)', 'Cheek &lt;left&gt;</b> <span class="dim">Ione Marchetti, where it was drawn<', '>rides on Cheek &lt;left&gt;<', 'exposure: stops 1.5, outside', "Warmer<br />\nthan the last", '7: Less shine', 'First look (revision 2)', 'gh010_r2.webm', 'levels', 'Frame 5, before'] as $words) {
            self::assertStringContainsString($words, (string) preg_replace('~base64,[^"]+~', '', $html));
        }
        self::assertSame(2, preg_match_all('~src="data:image/jpeg;base64,([^"]+)"~', $html, $pictures));
        [$before, $after] = array_map(static fn(string $text): string => (string) base64_decode($text, true), $pictures[1]);
        self::assertNotSame($before, $after);
        self::assertNotFalse(getimagesizefromstring($after));
        // Nothing in it is fetched from anywhere.
        self::assertDoesNotMatchRegularExpression('~(https?:)?//|<script|<link~', preg_replace('~base64,[^"]+~', '', $html) ?? '');
        $pdf = (string) $this->get("/api/shots/{$this->shot->id}/report.pdf")->assertOk()->assertDownload('gh010.pdf')->getContent();
        self::assertStringStartsWith('%PDF-', $pdf);
        self::assertSame(2, substr_count($pdf, '/Subtype /Image'));
        $this->get("/api/shots/{$this->shot->id}/report.doc")->assertNotFound();
    }

    public function test_what_was_not_looked_over_or_is_not_there_is_said(): void
    {
        self::assertStringContainsString('Not looked over as it is now.', $this->app->make(Report::class)->ofShot($this->shot->refresh()));
        $this->shot->update(['archived' => true]);
        self::assertStringNotContainsString('gh010', (string) $this->get("/api/jobs/{$this->shot->job_id}/report.html")->getContent());
        $missing = Shot::create(['job_id' => $this->shot->job_id, 'name' => 'gh020', 'state' => 'missing', 'error' => 'Its footage is not here: bring in b.mkv.']);
        self::assertStringContainsString('bring in b.mkv', $this->app->make(Report::class)->ofShot($missing));
    }
}
