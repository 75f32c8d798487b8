<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\FrameCache;
use App\Models\Shot;
use Illuminate\Filesystem\Filesystem;

/** Pictures made only where they differ from what stands already, and of several frames at once. */
final class PatchTest extends AppTestCase
{
    private const AREA = [
        'id' => 'face', 'name' => 'Face',
        'outline' => ['at' => 5, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.2, 0.2], 'featherOut' => 0.05]]],
        'live' => ['from' => 0, 'to' => 20],
        'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1], ['id' => 't2', 'kind' => 'exposure', 'stops' => -0.5, 'side' => 'outside']],
    ];

    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('clip.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108'));
        $this->save(self::AREA);
    }

    /** @param array<string, mixed> $area */
    private function save(array $area): int
    {
        $recipe = ['areas' => [$area]] + $this->recipe($this->shot->refresh());

        return $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $this->shot->revision, 'label' => 'Edit', 'recipe' => $recipe])->assertOk()->json('revision');
    }

    /** @return array<string, mixed> the area with more light inside */
    private static function lighter(): array
    {
        return array_replace_recursive(self::AREA, ['touches' => [['stops' => 2]]]);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array{list<int>, string} where it lies in pixels, and its bytes
     */
    private function picture(array $more = []): array
    {
        $answer = $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => 'result', 'area' => 'face', 'height' => 108, ...$more])->assertOk();

        return [array_map(intval(...), explode(' ', (string) $answer->headers->get('X-Picture-Place'))), (string) $answer->getContent()];
    }

    /** @return list<list<int>> its pixels, row by row */
    private static function pixels(string $jpeg): array
    {
        $image = imagecreatefromstring($jpeg);
        self::assertNotFalse($image);

        return array_map(static fn(int $y): array => array_map(static fn(int $x): int => imagecolorat($image, $x, $y), range(0, imagesx($image) - 1)), range(0, imagesy($image) - 1));
    }

    public function test_only_where_it_differs_is_made_and_that_is_the_very_piece_of_the_whole(): void
    {
        $before = self::pixels($this->picture()[1]);
        $this->save(self::lighter());
        [[$x, $y, $w, $h, $wholeWidth, $wholeHeight], $jpeg] = $this->picture(['standing' => 2]);
        self::assertSame([192, 108], [$wholeWidth, $wholeHeight]);
        self::assertEqualsWithDelta([97, 54, 56, 56], [$x + $w / 2, $y + $h / 2, $w, $h], 3);
        [$all, $part] = [self::pixels($this->picture()[1]), self::pixels($jpeg)];
        $far = static fn(int $a, int $b): int => abs(($a >> 8 & 255) - ($b >> 8 & 255));
        $apart = $moved = $beside = 0;
        foreach ($all as $j => $row) {
            foreach ($row as $i => $pixel) {
                $inside = $i >= $x && $i < $x + $w && $j >= $y && $j < $y + $h;
                $apart += $inside ? $far($pixel, $part[$j - $y][$i - $x]) : 0;
                $moved += $inside ? $far($pixel, $before[$j][$i]) : 0;
                $beside = max($beside, $i < $x - 8 || $i >= $x + $w + 8 ? $far($pixel, $before[$j][$i]) : 0);
            }
        }
        self::assertLessThan(2.5, $apart / ($w * $h), 'but for what JPEG makes of it');
        self::assertGreaterThan(4, $moved / ($w * $h));
        self::assertSame(0, $beside);
    }

    public function test_where_nothing_differs_nothing_is_made_and_where_nearly_all_does_a_whole(): void
    {
        $this->save(['name' => 'Head'] + self::AREA);
        self::assertSame([[0, 0, 0, 0, 192, 108], ''], $this->picture(['standing' => 2]));
        self::assertSame([[0, 0, 0, 0, 192, 108], ''], $this->picture(['standing' => 2, 'view' => 'base']));
        $this->save(array_replace_recursive(self::AREA, ['touches' => [1 => ['stops' => -1]]]));
        self::assertSame([0, 0, 192, 108, 192, 108], $this->picture(['standing' => 2])[0]);
        self::assertSame([0, 0, 0, 0, 192, 108], $this->picture(['standing' => 2, 'frame' => 25])[0], 'not live there');
        $window = $this->picture(['standing' => 2, 'window' => [0.2, 0.2, 0.8, 0.8]])[0];
        self::assertSame([21, 21, 66, 66], array_slice($window, 0, 4), 'all of what is seen');
    }

    public function test_views_of_a_matte_differ_where_it_does(): void
    {
        $this->save(array_replace_recursive(self::AREA, ['outline' => ['shapes' => [['centre' => [1.2, 0.5]]]]]));
        [$x, , $w] = $this->picture(['standing' => 2, 'view' => 'matte'])[0];
        self::assertEqualsWithDelta([70, 157], [$x, $x + $w], 3);
        $this->save(['id' => 'other'] + self::AREA);
        self::assertSame([0, 0, 192, 108], array_slice($this->picture(['standing' => 2, 'view' => 'tint', 'area' => 'other'])[0], 0, 4), 'there was no such area');
    }

    public function test_what_is_not_saved_yet_is_made_where_it_differs_from_what_is(): void
    {
        $recipe = ['areas' => [self::lighter()]] + $this->recipe($this->shot->refresh());
        [$place] = $this->picture(['standing' => 2, 'recipe' => $recipe, 'height' => 54]);
        self::assertEqualsWithDelta([28, 28, 96, 54], [$place[2], $place[3], $place[4], $place[5]], 3);
        $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => 'result', 'height' => 108, 'standing' => 99])->assertNotFound();
    }

    /** @return list<array<string, mixed>> what was sent, each with its bytes */
    private static function parts(string $stream): array
    {
        $parts = [];
        while ($stream !== '') {
            [$line, $stream] = explode("\n", $stream, 2);
            $part = json_decode($line, true, flags: JSON_THROW_ON_ERROR);
            $part['jpeg'] = substr($stream, 0, $part['bytes'] ?? 0);
            $stream = substr($stream, $part['bytes'] ?? 0);
            $parts[] = $part;
        }

        return $parts;
    }

    public function test_several_frames_come_one_after_the_other_in_the_order_asked_for(): void
    {
        $this->save(self::lighter());
        $ask = ['frames' => [7, 25, 5], 'view' => 'result', 'area' => 'face', 'height' => 108, 'standing' => 2];
        $parts = self::parts($this->postJson("/api/shots/{$this->shot->id}/pictures", $ask)->assertOk()->streamedContent());
        self::assertSame([7, 25, 5], array_column($parts, 'frame'));
        self::assertSame('', $parts[1]['jpeg']);
        [$place, $jpeg] = $this->picture(['standing' => 2]);
        self::assertSame([implode(' ', $place), $jpeg], [$parts[2]['place'], $parts[2]['jpeg']]);
        foreach ([[], [5, 30], ['x'], range(0, 40)] as $frames) {
            $this->postJson("/api/shots/{$this->shot->id}/pictures", ['frames' => $frames] + $ask)->assertStatus(422);
        }
        $this->postJson("/api/shots/{$this->shot->id}/pictures", ['area' => 'nose', 'view' => 'matte'] + $ask)->assertNotFound();
    }

    public function test_a_smaller_one_gives_way_to_a_full_one_that_is_kept(): void
    {
        [, $kept] = $this->picture(['frame' => 6, 'area' => null]);
        $parts = self::parts($this->postJson("/api/shots/{$this->shot->id}/pictures", ['frames' => [6, 7], 'view' => 'result', 'height' => 36, 'full' => 108])->assertOk()->streamedContent());
        self::assertSame([[true, $kept], false], [[$parts[0]['full'], $parts[0]['jpeg']], $parts[1]['full']]);
        self::assertNotSame($parts[0]['place'], $parts[1]['place']);
        $this->save(self::lighter());
        $parts = self::parts($this->postJson("/api/shots/{$this->shot->id}/pictures", ['frames' => [6], 'view' => 'result', 'height' => 36, 'full' => 108])->assertOk()->streamedContent());
        self::assertFalse($parts[0]['full'], 'that was before');
    }

    public function test_what_goes_wrong_after_the_first_is_told_in_its_place(): void
    {
        $this->picture(['height' => 54]);
        // As after every request: what is open would still have the file.
        $this->app->make(FrameCache::class)->rest();
        (new Filesystem())->delete($this->shot->readyFootage()->file()->path);
        $parts = self::parts($this->postJson("/api/shots/{$this->shot->id}/pictures", ['frames' => [6, 20, 21], 'view' => 'result', 'height' => 54])->assertOk()->streamedContent());
        self::assertCount(2, $parts);
        self::assertSame(6, $parts[0]['frame']);
        self::assertStringContainsString('clip.mkv', $parts[1]['message']);
    }
}
