<?php

declare(strict_types=1);

namespace Tests\App;

use App\Following\PersonFollow;
use App\Models\Follow;
use App\Models\FollowState;
use App\Models\Shot;
use App\Treatment\Tracks;
use App\Work\FollowArea;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;

final class PersonFollowTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('clip.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108'));
    }

    /**
     * @param list<array<string, mixed>> $shapes
     *
     * @return array<string, mixed>
     */
    private static function area(string $id, string $part, array $shapes, ?string $on): array
    {
        return [
            'id' => $id, 'name' => ucfirst($id), 'part' => $part, 'outline' => ['at' => 5, 'shapes' => array_map(static fn(array $shape): array => [...$shape, 'id' => "s{$id}"], $shapes)],
            'motion' => $on === null ? ['by' => 'none'] : ['by' => 'ride', 'on' => $on],
            'live' => ['from' => 0, 'to' => 29],
        ];
    }

    /** @return array<string, mixed> */
    private static function path(float $x, float $y, float $r): array
    {
        $points = array_map(static fn(int $k): array => ['at' => [$x + $r * cos($k), $y + $r * sin($k)], 'in' => [0, 0], 'out' => [0, 0]], range(0, 5));

        return ['id' => 's', 'kind' => 'path', 'points' => $points];
    }

    private function person(): void
    {
        $ellipse = static fn(float $x, float $y, float $r): array => ['id' => 's', 'kind' => 'ellipse', 'centre' => [$x, $y], 'radii' => [$r, $r]];
        $areas = [
            self::area('face', 'face', [$ellipse(0.9, 0.5, 0.35)], null),
            self::area('lips', 'lips', [self::path(0.9, 0.6, 0.1)], 'face'),
            self::area('teeth', 'teeth', [self::path(0.9, 0.6, 0.06)], 'face'),
            self::area('neck', 'neck', [$ellipse(0.9, 0.85, 0.1)], 'face'),
        ];
        $recipe = [...$this->recipe($this->shot), 'areas' => $areas];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $this->shot->refresh()->revision, 'label' => 'Areas of a person', 'recipe' => $recipe])->assertOk();
    }

    public function test_the_head_is_followed_first_then_its_parts_each_in_its_own_way_and_it_is_one_edit(): void
    {
        $this->person();
        $before = $this->shot->refresh()->revision;
        $answer = $this->postJson("/api/shots/{$this->shot->id}/follows/person", ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9])->assertOk()->json();
        self::assertSame(['face', 'lips', 'teeth'], array_column($answer, 'area'));
        self::assertCount(1, array_unique(array_column($answer, 'person')));
        $follows = Follow::orderBy('id')->get();
        self::assertSame([null, $follows[0]->id, $follows[1]->id], $follows->pluck('after')->all());
        self::assertSame($before + 1, $this->shot->refresh()->revision);
        $areas = array_column($this->recipe($this->shot)['areas'], null, 'id');
        self::assertSame(['relief', [2, 9], 5], [$areas['face']['motion']['model'], $areas['face']['motion']['span'], $areas['face']['motion']['start']]);
        self::assertSame(['ride', 'face'], [$areas['neck']['motion']['by'], $areas['neck']['motion']['on']]);
        foreach (['lips', 'teeth'] as $part) {
            self::assertSame(['follow', 'outline'], [$areas[$part]['motion']['by'], $areas[$part]['motion']['model']]);
            self::assertTrue(app(Tracks::class)->has($areas[$part]['motion']['track']['sha256']));
        }
        // Teeth go with the mouth, lips do not.
        self::assertSame([false, true], [$areas['lips']['blinkGuard']['on'] ?? false, $areas['teeth']['blinkGuard']['on']]);
        self::assertSame([FollowState::Done], $follows->pluck('state')->unique()->values()->all());
        self::assertSame([null], $follows->pluck('track')->unique()->values()->all());
        self::assertNotNull($follows[0]->message);
        $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => $this->shot->revision])->assertOk();
        self::assertNull($this->recipe($this->shot->refresh())['areas'][0]['motion']['track'] ?? null);
    }

    public function test_a_part_that_was_removed_meanwhile_loses_nothing_of_the_others(): void
    {
        $this->person();
        $common = ['person' => 'p', 'start' => 5, 'from' => 2, 'to' => 9];
        $track = app(Tracks::class)->keep(Track::of(5, Model::Perspective, [5 => new Step(Matrix::identity(), State::Set, 1.0)]));
        $head = $this->shot->follows()->create([...$common, 'area' => 'face', 'state' => FollowState::Done, 'track' => $track]);
        $this->shot->follows()->create([...$common, 'area' => 'gone', 'after' => $head->id, 'state' => FollowState::Done, 'track' => $track]);
        $lips = $this->shot->follows()->create([...$common, 'area' => 'lips', 'after' => $head->id, 'state' => FollowState::Waiting]);
        FollowArea::dispatchSync($lips->id);
        self::assertSame(FollowState::Done, $lips->refresh()->state);
        $areas = array_column($this->recipe($this->shot->refresh())['areas'], null, 'id');
        self::assertSame([$track, 'follow'], [$areas['face']['motion']['track']['sha256'], $areas['lips']['motion']['by']]);
    }

    public function test_eyes_that_were_followed_at_once_look_together(): void
    {
        $ellipse = static fn(float $x, float $r): array => ['id' => 's', 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [$r, $r]];
        $areas = [self::area('face', 'face', [$ellipse(0.9, 0.35)], null), self::area('left', 'iris', [$ellipse(1.0, 0.03)], 'face'), self::area('right', 'iris', [$ellipse(0.8, 0.03)], 'face')];
        $recipe = [...$this->recipe($this->shot), 'areas' => $areas];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $this->shot->refresh()->revision, 'label' => 'Eyes', 'recipe' => $recipe])->assertOk();
        // The right one is lost to something beside it on three frames.
        $track = static fn(Model $model, float $aside, float $sure): Track => Track::of(5, $model, array_map(static function (int $f) use ($aside, $sure): Step {
            $isLost = $f > 5 && $f < 9;

            return new Step(Matrix::move($isLost ? $aside : 0.0, 0.0), $f === 5 ? State::Set : State::Followed, $isLost ? $sure : 0.95, null, 0.9);
        }, array_combine(range(2, 9), range(2, 9))));
        $keep = fn(string $area, Track $of, FollowState $state): Follow => $this->shot->follows()->create(['person' => 'p', 'start' => 5, 'from' => 2, 'to' => 9, 'area' => $area, 'state' => $state, 'track' => app(Tracks::class)->keep($of)]);
        $keep('face', $track(Model::Relief, 0.0, 0.95), FollowState::Done);
        $keep('left', $track(Model::Iris, 0.0, 0.95), FollowState::Done);
        $last = $keep('right', $track(Model::Iris, 0.08, 0.5), FollowState::Following);
        app(PersonFollow::class)->over($last, ['state' => FollowState::Done]);
        $areas = array_column($this->recipe($this->shot->refresh())['areas'], null, 'id');
        $right = app(Tracks::class)->get($areas['right']['motion']['track']['sha256']);
        self::assertEqualsWithDelta(0.8, $right->matrix(7)->apply(0.8, 0.5)[0], 1e-6);
        self::assertSame([State::Bridged, State::Followed], [$right->steps[7]->state, $right->steps[4]->state]);
    }

    public function test_a_part_that_is_followed_again_later_is_taken_alone(): void
    {
        $this->person();
        $this->postJson("/api/shots/{$this->shot->id}/follows/person", ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9])->assertOk();
        $lips = Follow::where('area', 'lips')->firstOrFail();
        $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => $this->shot->refresh()->revision])->assertOk();
        $lips->update(['state' => FollowState::Failed]);
        (new FollowArea($lips->id))->again();
        self::assertSame('Follow Lips', $this->shot->refresh()->presentRevision->label);
        $areas = array_column($this->recipe($this->shot)['areas'], null, 'id');
        self::assertSame(['none', 'follow', 'ride'], [$areas['face']['motion']['by'], $areas['lips']['motion']['by'], $areas['teeth']['motion']['by']]);
    }

    public function test_what_waits_is_stopped_with_what_it_waits_for(): void
    {
        $this->person();
        $common = ['person' => 'p', 'start' => 5, 'from' => 2, 'to' => 9, 'state' => FollowState::Waiting];
        $head = $this->shot->follows()->create([...$common, 'area' => 'face']);
        $lips = $this->shot->follows()->create([...$common, 'area' => 'lips', 'after' => $head->id]);
        // Begun out of turn it does nothing yet.
        FollowArea::dispatchSync($lips->id);
        self::assertSame(FollowState::Waiting, $lips->refresh()->state);
        $this->postJson("/api/follows/{$lips->id}/stop")->assertOk();
        self::assertTrue($head->refresh()->stop);
        FollowArea::dispatchSync($head->id);
        self::assertSame([FollowState::Stopped, FollowState::Stopped], [$head->refresh()->state, $lips->refresh()->state]);
        self::assertSame('Areas of a person', $this->shot->refresh()->presentRevision->label);
    }

    public function test_a_head_that_cannot_be_followed_is_told_for_all(): void
    {
        $this->person();
        $recipe = $this->recipe($this->shot->refresh());
        $recipe['areas'][0]['outline']['shapes'][0]['centre'] = [-0.6, -0.6];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $this->shot->revision, 'label' => 'Edit', 'recipe' => $recipe])->assertOk();
        $before = $this->shot->refresh()->revision;
        $this->postJson("/api/shots/{$this->shot->id}/follows/person", ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9])->assertOk();
        self::assertSame([FollowState::Failed], Follow::pluck('state')->unique()->values()->all());
        self::assertSame('The head could not be followed.', Follow::where('area', 'teeth')->firstOrFail()->message);
        self::assertSame($before, $this->shot->refresh()->revision);
        $this->postJson("/api/shots/{$this->shot->id}/follows/person", ['area' => 'nobody', 'start' => 5, 'from' => 2, 'to' => 9])->assertNotFound();
    }
}
