<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Carry;
use App\Models\CarryState;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use App\Work\MakeProposal;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Carries of treatments to other shots: asked for here, proposed in the background, taken, left and taken back. */
final class Carries
{
    public function __construct(private readonly Recipes $recipes) {}

    /**
     * @param list<int>                                                                           $shots that it is carried to
     * @param array{areas: list<string>, touches?: list<string>|null, base: bool, finish: bool, replace: bool, match: bool} $what
     *
     * @return Collection<int, Carry>
     *
     * @throws CannotCarry
     */
    public function begin(Shot $source, array $shots, array $what): Collection
    {
        $recipe = $this->recipes->recipe($source);
        array_map($recipe->area(...), $what['areas']);
        if ($what['areas'] === [] && !$what['base'] && !$what['finish']) {
            throw new CannotCarry('Nothing is chosen to be carried.');
        }
        $people = array_unique(array_map(static fn(string $id): string => (string) $recipe->area($id)->person, $what['areas']));
        if (count($people) > 1) {
            throw new CannotCarry('The areas of one person are carried at a time.');
        }
        $targets = Shot::whereKey($shots)->where('job_id', $source->job_id)->whereKeyNot($source->id)->where('state', ShotState::Ready)->orderBy('position')->orderBy('id')->pluck('id');
        if ($targets->isEmpty()) {
            throw new CannotCarry('No shot is chosen that it could be carried to.');
        }

        return DB::transaction(static function () use ($source, $targets, $what): Collection {
            $batch = (string) Str::uuid();
            foreach ($targets as $id) {
                $carry = Carry::create(['batch' => $batch, 'source_id' => $source->id, 'source_revision' => $source->revision, 'shot_id' => $id, 'state' => CarryState::Waiting, 'what' => $what]);
                MakeProposal::dispatch($carry->id);
            }

            return Carry::where('batch', $batch)->with('shot')->orderBy('id')->get();
        });
    }

    /**
     * Puts a proposal into the recipe of its shot, as one step of its history.
     *
     * @throws CannotCarry
     */
    public function take(Carry $carry): Carry
    {
        if ($carry->state !== CarryState::Proposed || $carry->recipe === null || $carry->revision === null) {
            throw new CannotCarry($carry->state === CarryState::Taken ? 'It is taken already.' : 'There is nothing to take yet.');
        }
        $revision = $this->recipes->save($carry->shot, $carry->revision, json_decode($carry->recipe, true, flags: JSON_THROW_ON_ERROR), $carry->isKept() ? "Laid on: {$carry->origin()}" : "Carried from {$carry->origin()}");
        $carry->update(['state' => CarryState::Taken, 'taken' => $revision->number]);

        return $carry;
    }

    /** Takes it out again; what was done in the shot since stays. */
    public function takeBack(Carry $carry): Carry
    {
        if ($carry->state !== CarryState::Taken || $carry->taken === null) {
            throw new CannotCarry('It is not taken.');
        }
        $before = $this->recipes->revision($carry->shot, (int) $this->recipes->revision($carry->shot, $carry->taken)->parent);
        $this->recipes->save($carry->shot, $carry->taken, $before->document(), "Take back what came from {$carry->origin()}");
        $carry->update(['state' => CarryState::Proposed, 'taken' => null, 'revision' => $before->number]);

        return $carry;
    }

    public function leave(Carry $carry): void
    {
        Carry::whereKey($carry->id)->whereIn('state', [CarryState::Proposed, CarryState::Failed, ...CarryState::open()])->update(['state' => CarryState::Left]);
    }
}
