<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;

/** Versions of a treatment: kept, named, seen, restored, deleted. */
final class VersionTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->artisan('cossel:import', ['files' => [$this->film('a.mkv', ['-c:v', 'ffv1'])], '--job' => 'Versions'])->assertSuccessful();
        $this->shot = Job::firstOrFail()->shots()->firstOrFail();
    }

    private function exposed(float $stops): void
    {
        $state = $this->getJson("/api/shots/{$this->shot->id}/recipe")->json();
        $state['recipe']['base'] = [['id' => 'b', 'kind' => 'exposure', 'stops' => $stops]];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $state['revision'], 'label' => "Exposure {$stops}", 'recipe' => $state['recipe']])->assertOk();
    }

    /** @param array<string, mixed> $more */
    private function picture(array $more = []): string
    {
        return (string) $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 3, 'view' => 'result', 'height' => 64, ...$more])->assertOk()->getContent();
    }

    public function testAVersionIsKeptSeenAndGoneBackTo(): void
    {
        $this->exposed(1.0);
        $kept = $this->picture();
        $version = $this->postJson("/api/shots/{$this->shot->id}/versions", ['name' => 'Bright'])->assertCreated()->json();
        $this->exposed(-1.0);
        $dark = $this->picture();
        self::assertNotSame($kept, $dark);
        self::assertSame($kept, $this->picture(['revision' => $version['revision']]));
        // Seen from an older state, going back would take off what somebody else did since.
        $this->postJson("/api/shots/{$this->shot->id}/versions/{$version['id']}/restore", ['base' => 2])->assertStatus(409)->assertJsonPath('message', 'This shot was changed elsewhere in the meantime, last by “Exposure -1”. That is shown now; nothing else was done.');
        self::assertSame($dark, $this->picture());
        $this->postJson("/api/shots/{$this->shot->id}/versions/{$version['id']}/restore", ['base' => 3])->assertOk();
        self::assertSame($kept, $this->picture());
        $state = $this->getJson("/api/shots/{$this->shot->id}/recipe");
        self::assertSame('Back to Bright', $state->json('undo'));
        $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => $state->json('revision')])->assertOk();
        self::assertSame($dark, $this->picture());
    }

    public function testNamesAreUniqueWithinAShotAndVersionsBelongToTheirs(): void
    {
        $one = $this->postJson("/api/shots/{$this->shot->id}/versions", ['name' => 'A'])->assertCreated()->json('id');
        $this->postJson("/api/shots/{$this->shot->id}/versions", ['name' => 'A'])->assertStatus(422)->assertJsonPath('message', 'There is a version of this name already.');
        $this->postJson("/api/shots/{$this->shot->id}/versions", ['name' => ''])->assertStatus(422);
        $this->putJson("/api/shots/{$this->shot->id}/versions/{$one}", ['name' => 'A'])->assertOk();
        $this->putJson("/api/shots/{$this->shot->id}/versions/{$one}", ['name' => 'First'])->assertOk()->assertJsonPath('name', 'First');
        $this->artisan('cossel:import', ['files' => [$this->film('b.mkv', ['-c:v', 'ffv1'], frames: 12)], '--job' => 'Versions'])->assertSuccessful();
        $other = Shot::where('name', 'b')->firstOrFail();
        $this->postJson("/api/shots/{$other->id}/versions/{$one}/restore", ['base' => 1])->assertNotFound();
        $this->postJson("/api/shots/{$other->id}/picture", ['frame' => 3, 'view' => 'result', 'height' => 64, 'revision' => 77])->assertNotFound();
        $this->deleteJson("/api/shots/{$this->shot->id}/versions/{$one}")->assertNoContent();
        $this->getJson("/api/shots/{$this->shot->id}/versions")->assertOk()->assertExactJson([]);
    }

    public function testADifferenceIsAroundMidGreyAndAmplified(): void
    {
        $level = static function (string $jpeg): int {
            $image = imagecreatefromstring($jpeg);
            self::assertNotFalse($image);

            return imagecolorat($image, 70, 50) & 255;
        };
        self::assertEqualsWithDelta(128, $level($this->picture(['view' => 'difference', 'gain' => 16])), 1);
        $this->exposed(0.1);
        $once = abs($level($this->picture(['view' => 'difference'])) - 128);
        $often = abs($level($this->picture(['view' => 'difference', 'gain' => 4])) - 128);
        self::assertGreaterThan(0, $once);
        self::assertEqualsWithDelta(4 * $once, $often, 5);
        $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 3, 'view' => 'difference', 'height' => 64, 'gain' => 17])->assertStatus(422);
    }
}
