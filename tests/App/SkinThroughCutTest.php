<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Shot;

/** One person through the cut: their face in each shot, and how far its skin jumps. */
final class SkinThroughCutTest extends AppTestCase
{
    private function face(Shot $shot, float $stops): void
    {
        $area = [
            'id' => 'face', 'name' => 'Face', 'part' => 'face', 'person' => 'ione', 'live' => ['from' => 0, 'to' => 9],
            'outline' => ['at' => 3, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.3, 0.3]]]],
            'touches' => $stops === 0.0 ? [] : [['id' => 't', 'kind' => 'exposure', 'stops' => $stops]],
        ];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $shot->refresh()->revision, 'label' => 'Set', 'recipe' => [...$this->recipe($shot), 'areas' => [$area]]])->assertOk();
    }

    public function test_a_jump_in_skin_is_measured_as_it_is_treated(): void
    {
        $clip = fn(string $name): string => $this->film($name, ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 10, filter: $name === 'b.mkv' ? 'eq=brightness=-0.1' : null);
        [$one, $other] = [$this->shot($clip('a.mkv')), $this->shot($clip('b.mkv'))];
        $this->face($one, 0.0);
        $this->face($other, 0.0);
        $this->getJson("/api/shots/{$one->id}/faces/ione")->assertOk()->assertExactJson(['area' => 'face', 'frame' => 3, 'apart' => null]);
        $apart = fn(): float => (float) $this->getJson("/api/shots/{$other->id}/faces/ione?beside={$one->id}")->assertOk()->json('apart');
        $before = $apart();
        self::assertGreaterThan(3.0, $before);
        // What is done to it counts.
        $this->face($other, 0.6);
        self::assertLessThan(0.6 * $before, $apart());
        $this->get("/api/shots/{$one->id}/faces/ione/picture")->assertOk()->assertHeader('Content-Type', 'image/jpeg');
        $this->get("/api/shots/{$one->id}/faces/wren/picture")->assertStatus(404);
        $this->getJson("/api/shots/{$one->id}/faces/wren")->assertOk()->assertJsonPath('area', null);
    }
}
