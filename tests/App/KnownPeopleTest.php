<?php

declare(strict_types=1);

namespace Tests\App;

use App\Carrying\KnownPeople;
use App\Faces\FaceFile;
use App\Faces\FaceMeter;
use App\Faces\Faces;
use App\Faces\Measured;
use App\Models\Person;
use App\Models\Shot;
use Cossel\Core\Face\Mesh;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Tests\Face\Meshes;

/** Somebody found on a frame is guessed to be the one of the job with the same eyes and lips, in whatever light. */
final class KnownPeopleTest extends AppTestCase
{
    private const GREEN = ['0x406838', '0xb04848'];
    private const BROWN = ['0x4a2c18', '0x986058'];

    /** A painted person: skin, an iris and lips of these colours. */
    private function painted(string $name, array $colours, string $light = 'null'): Shot
    {
        [$iris, $lips] = $colours;
        $file = "{$this->folder}/{$name}.mkv";
        $boxes = "drawbox=x=60:y=30:w=20:h=20:c={$iris}:t=fill,drawbox=x=76:y=74:w=36:h=14:c={$lips}:t=fill";
        $this->ffmpeg(['-f', 'lavfi', '-i', "color=c=0xc08a70:s=192x108:r=24,format=gbrp,{$boxes},{$light}", '-frames:v', '6', '-c:v', 'ffv1', '-pix_fmt', 'yuv444p', '-y', $file]);

        return $this->shot($file);
    }

    /** @return list<array<string, mixed>> */
    private static function areas(?string $person): array
    {
        $area = static fn(string $name, string $part, float $x, float $y, float $r): array => [
            'id' => $part, 'name' => $name, 'part' => $part, 'person' => $person, 'live' => ['from' => 0, 'to' => 5],
            'outline' => ['at' => 2, 'shapes' => [['id' => "s{$part}", 'kind' => 'ellipse', 'centre' => [$x / 108, $y / 108], 'radii' => [$r / 108, $r / 108]]]],
        ];

        return [$area('Face', 'face', 96, 54, 50), $area('Left iris', 'iris', 70, 40, 9), $area('Lips', 'lips', 94, 81, 6)];
    }

    private function known(Shot $shot, string $name): void
    {
        $slug = collect($this->postJson("/api/jobs/{$shot->job_id}/people", ['name' => $name])->assertSuccessful()->json('people'))->firstWhere('name', $name)['slug'];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $shot->refresh()->revision, 'label' => 'A person', 'recipe' => [...$this->recipe($shot), 'areas' => self::areas($slug)]])->assertOk();
    }

    private function found(Shot $shot, ?Mesh $face = null): FoundPerson
    {
        $recipe = app(RecipeReader::class)->read([...$this->recipe($shot), 'areas' => self::areas(null)]);

        return new FoundPerson(true, [0.0, 0.0, 1.0, 1.0], array_map(static fn(Area $area): Proposal => new Proposal($area), $recipe->areas), $face);
    }

    /** As if a face had been measured there, which looks like that. */
    private function face(Shot $shot, ?float $turn): Mesh
    {
        $file = config('cossel.cache.path') . "/faces/{$shot->readyFootage()->file()->sha256}." . FaceMeter::method() . '.faces';
        $face = Meshes::face(96 / 108, 0.45, 0.9);
        $face = $turn === null ? $face : $face->described(Meshes::descriptor($turn));
        (new FaceFile($file))->add(array_fill(0, 6, new Measured([$face], 1, 1, (string) gzcompress("\0"))));

        return $face;
    }

    /**
     * @param list<array{person: string, by: string}|null> $guesses
     *
     * @return list<string|null>
     */
    private static function people(array $guesses): array
    {
        return array_map(static fn(?array $guess): ?string => $guess['person'] ?? null, $guesses);
    }

    public function test_the_one_with_the_same_eyes_and_lips_is_guessed_and_nobody_twice(): void
    {
        $this->known($this->painted('one', self::GREEN), 'Maren');
        $this->known($this->painted('two', self::BROWN), 'Kei');
        $guess = fn(Shot $shot, int $many = 1): array => self::people(app(KnownPeople::class)->guessed($shot->refresh(), 2, array_fill(0, $many, $this->found($shot))));
        $green = $this->painted('three', self::GREEN, 'lutrgb=r=val*0.7:g=val*0.7:b=val*0.7');
        self::assertSame(['maren'], $guess($green));
        self::assertSame(['kei'], $guess($this->painted('four', self::BROWN, 'lutrgb=r=val*0.8:g=val*0.8:b=val*0.8')));
        // One of two alike is she.
        self::assertCount(1, array_keys($guess($green, 2), 'maren', true));
        // Of two who are much alike the one who is more so.
        $this->known($this->painted('six', ['0x523424', '0xa06a60']), 'Aino');
        self::assertSame([['kei'], ['aino']], [$guess($this->painted('seven', self::BROWN)), $guess($this->painted('eight', ['0x523424', '0xa06a60']))]);
        // Like neither.
        self::assertSame([null], $guess($this->painted('five', ['0x80b0e0', '0xf0a0c0'])));
        self::assertSame([], app(KnownPeople::class)->guessed($green, 2, []));
    }

    public function test_a_face_tells_more_than_colours_and_is_forgotten_with_the_person(): void
    {
        foreach ([['one', self::GREEN, 'Maren', 0.0], ['two', self::BROWN, 'Kei', 1.55]] as [$file, $colours, $name, $turn]) {
            $shot = $this->painted($file, $colours);
            $this->face($shot, $turn);
            $this->known($shot, $name);
        }
        // Kei's eyes and lips, Maren's face; neither's face; and no face that was measured.
        $made_up = $this->painted('three', self::BROWN, 'lutrgb=r=val*0.9:g=val*0.9:b=val*0.9');
        $guess = fn(?Mesh $face): array => app(KnownPeople::class)->guessed($made_up->refresh(), 2, [$this->found($made_up, $face)]);
        self::assertSame([['person' => 'maren', 'by' => 'face']], $guess($this->face($made_up, 0.4)));
        self::assertSame([['person' => 'kei', 'by' => 'colours']], $guess(null));
        $stranger = $this->painted('four', self::BROWN);
        self::assertSame([null], app(KnownPeople::class)->guessed($stranger->refresh(), 2, [$this->found($stranger, $this->face($stranger, 0.77))]));
        self::assertNotNull(Person::where('slug', 'maren')->firstOrFail()->likeness['face'] ?? null);
        $this->deleteJson("/api/jobs/{$made_up->job_id}/people/maren")->assertOk();
        self::assertSame(0, Person::where('slug', 'maren')->count());
        self::assertSame([null], $guess($this->face($made_up, 0.4)));
    }

    public function test_shots_that_probably_show_somebody_are_told(): void
    {
        // The first shot shows her eyes alone, the second her face.
        $eyes = $this->painted('eyes', self::GREEN, 'drawbox=w=1:h=1:c=black');
        $this->face($eyes, null);
        $this->known($eyes, 'Maren');
        $one = $this->painted('one', self::GREEN);
        $this->face($one, 0.0);
        $this->known($one, 'Maren');
        [$likely, $other, $unmeasured] = array_map(fn(string $name): Shot => $this->painted($name, self::BROWN, "drawbox=w=1:h=1:c={$name}"), ['red', 'blue', 'white']);
        $this->face($likely, 0.3);
        $this->face($other, 1.2);
        $of = fn(): array => $this->getJson("/api/jobs/{$one->job_id}/people/maren/likely")->assertOk()->json();
        self::assertSame([['shot' => $likely->id, 'frame' => 0]], $of());
        self::assertSame([[$eyes->id, false], [$likely->id, true], [$other->id, false], [$unmeasured->id, false]], collect($this->getJson("/api/shots/{$one->id}/targets?person=maren")->assertOk()->json())->sortBy('id')->map(static fn(array $t): array => [$t['id'], $t['likely']])->values()->all());
        // Nothing of it is left when what was measured is cleared, and nothing is said once they are outlined there.
        app(Faces::class)->empty();
        self::assertSame([], $of());
        $this->face($likely, 0.3);
        $this->putJson("/api/shots/{$likely->id}/recipe", ['base' => $likely->refresh()->revision, 'label' => 'A person', 'recipe' => [...$this->recipe($likely), 'areas' => self::areas('maren')]])->assertOk();
        self::assertSame([], $of());
    }
}
