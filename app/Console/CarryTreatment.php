<?php

declare(strict_types=1);

namespace App\Console;

use App\Carrying\Carries;
use App\Carrying\KeptTreatments;
use App\Models\Carry;
use App\Models\CarryState;
use App\Models\Job;
use App\Models\Person;
use App\Models\Shot;
use App\Models\Treatment;
use App\Treatment\Recipes;
use App\Work\Queues;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Touch;
use Illuminate\Support\Collection;

final class CarryTreatment extends JobCommand
{
    protected $signature = 'cossel:carry
        {shots* : names of the shots it is carried to}
        {--job= : name of the job}
        {--from= : shot it comes from}
        {--person= : whose areas, by their name or short id; with --treatment whose they become; all that is treated where neither they nor areas are named}
        {--area=* : names of areas}
        {--touch=* : kinds of touches, where not all are carried}
        {--base : the base too}
        {--finish : the finish too}
        {--treatment= : a kept treatment by its name, or a .recipe.json file, instead of a shot}
        {--replace : touches of parts that are treated already give way}
        {--no-match : not made to look the same}
        {--propose : leave it to be looked at and taken on the bench}
        {--json : tell it as JSON}';

    protected $description = 'Carries a treatment to other shots of a job';

    public function handle(Carries $carries, KeptTreatments $kept, Recipes $recipes): int
    {
        return $this->guarded(function () use ($carries, $kept, $recipes): int {
            $job = $this->job();
            $targets = $this->shots($job, $this->argument('shots'))->pluck('id')->all();
            $placed = $this->option('treatment') !== null
                ? $kept->lay($job, $this->treatment($job, (string) $this->option('treatment'), $kept), $targets, $this->person($job), $this->option('replace'))
                : $this->fromShot($carries, $recipes, $job, $targets);
            $ids = $placed->pluck('id')->all();
            $this->work(Queues::BENCH, static fn(): bool => Carry::whereKey($ids)->whereIn('state', CarryState::open())->exists());
            $done = Carry::whereKey($ids)->with(['shot', 'source'])->orderBy('id')->get();
            foreach ($this->option('propose') ? [] : $done->where('state', CarryState::Proposed) as $carry) {
                $carries->take($carry);
            }
            $this->tell(
                $done->map(static fn(Carry $c): array => ['shot' => $c->shot->name, 'state' => $c->state->value, 'message' => $c->message, 'words' => $c->words, 'misses' => array_map(static fn(array $m): array => ['area' => $m[0], 'before' => $m[1], 'after' => $m[2]], $c->misses)])->all(),
                $done->map(static fn(Carry $c): string => "{$c->shot->name}: {$c->state->value}" . ($c->message === null ? '' : ". {$c->message}") . implode('', array_map(static fn(string $w): string => ". {$w}", $c->words)))->all(),
            );

            return $done->contains('state', CarryState::Failed) ? self::PARTLY : self::DONE;
        });
    }

    /**
     * @param list<int> $targets
     *
     * @return Collection<int, Carry>
     */
    private function fromShot(Carries $carries, Recipes $recipes, Job $job, array $targets): Collection
    {
        $name = (string) $this->option('from');
        $from = $name === '' ? throw WrongUse::because('--from or --treatment is missing.') : $this->shots($job, [$name])->first();
        \assert($from instanceof Shot);
        $recipe = $recipes->recipe($from);
        $wanted = $this->option('area');
        $person = $this->person($job);
        if ($wanted === [] && $person === null && !$this->option('base') && !$this->option('finish')) {
            $treated = array_filter($recipe->areas, static fn(Area $area): bool => $recipe->touches($area) !== []);
            $people = array_values(array_unique(array_filter(array_column($treated, 'person'))));
            if (count($people) > 1) {
                throw WrongUse::because("What is treated in {$name} is of several people; --person tells of whom it is carried.");
            }
            $person = $people[0] ?? null;
            $areas = array_filter($treated, static fn(Area $area): bool => $area->person === $person);
        } else {
            $areas = array_filter($recipe->areas, static fn(Area $area): bool => in_array($area->name, $wanted, true) || ($wanted === [] && $person !== null && $area->person === $person));
        }
        $unknown = array_diff($wanted, array_column($areas, 'name'));
        if ($unknown !== []) {
            throw WrongUse::because('There is no area “' . reset($unknown) . "” in {$name}.");
        }

        $kinds = $this->option('touch');
        $touches = [...$recipe->base, ...array_merge(...array_map($recipe->touches(...), array_values($areas))), ...$recipe->finish];
        $only = $kinds === [] ? null : array_values(array_column(array_filter($touches, static fn(Touch $touch): bool => in_array($touch->kind->name(), $kinds, true)), 'id'));

        return $carries->begin($from, $targets, ['areas' => array_values(array_column($areas, 'id')), 'touches' => $only, 'base' => $this->option('base'), 'finish' => $this->option('finish'), 'replace' => $this->option('replace'), 'match' => !$this->option('no-match')]);
    }

    /** @throws WrongUse */
    private function person(Job $job): ?string
    {
        $name = $this->option('person');
        if ($name === null) {
            return null;
        }

        return $job->people->first(static fn(Person $person): bool => $person->slug === $name || mb_strtolower($person->name) === mb_strtolower($name))->slug
            ?? throw WrongUse::because("There is nobody called “{$name}” in this job.");
    }

    private function treatment(Job $job, string $name, KeptTreatments $kept): Treatment
    {
        $known = $job->treatments()->where('name', $name)->first();
        if ($known === null && !is_file($name)) {
            throw WrongUse::because("Neither is “{$name}” kept in this job, nor is there such a file.");
        }

        return $known ?? $kept->take($job, basename($name, '.recipe.json'), json_decode((string) file_get_contents($name), true, 128));
    }
}
