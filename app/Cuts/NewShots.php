<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Models\Footage;
use App\Models\Job;
use App\Models\Revision;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;

/** Shots that a cut adds to a job: gathered, and written many at once. */
final class NewShots
{
    /** Letters of a name taken from a cut at the most. */
    private const LETTERS = 110;
    /** Rows of one statement: SQLite takes so many values of each at the most. */
    private const ROWS = 500;

    /** @var array<string, int> how often each name was given */
    private array $names = [];
    /** @var list<array<string, mixed>> */
    private array $rows = [];
    /** @var list<string|null> their first recipes; null while the footage is missing */
    private array $recipes = [];

    public function __construct(private readonly Job $job, private readonly Recipes $first, private readonly Ahead $ahead)
    {
        $this->names = array_fill_keys($job->shots()->toBase()->pluck('name')->all(), 1);
    }

    public function add(CutPlace $place, int $position, ?Footage $footage, Brought $brought): void
    {
        $name = $this->named($place->event->title());
        $wanting = Wanting::of($place, $footage);
        $wanting?->tell($name, $brought);
        $span = $wanting === null ? $place->span($footage->info()) : [0, 0];
        $this->rows[] = [
            'job_id' => $this->job->id,
            'name' => $name,
            'cut' => json_encode($place->document(), JSON_THROW_ON_ERROR),
            'position' => $position,
            'state' => ($wanting === null ? ShotState::Ready : ShotState::Missing)->value,
            'error' => $wanting?->error,
            'footage_id' => $wanting === null ? $footage->id : null,
            'from' => $span[0],
            'to' => $span[1],
            'revision' => $wanting === null ? 1 : 0,
        ];
        $this->recipes[] = $wanting === null ? $this->first->untouched($footage, $span[0], $span[1]) : null;
    }

    /** Within a transaction, which keeps others from writing rows between. */
    public function write(): void
    {
        if ($this->rows === []) {
            return;
        }
        $times = ['created_at' => now(), 'updated_at' => now()];
        $before = (int) Shot::max('id');
        foreach (array_chunk($this->rows, self::ROWS) as $rows) {
            Shot::insert(array_map(static fn(array $row): array => [...$row, ...$times], $rows));
        }
        $ids = Shot::where('id', '>', $before)->orderBy('id')->pluck('id')->all();
        $ready = array_filter($this->recipes, is_string(...));
        $revisions = array_map(static fn(int $i, string $recipe): array => ['shot_id' => $ids[$i], ...Recipes::FIRST, 'recipe' => $recipe, 'created_at' => now()], array_keys($ready), $ready);
        foreach (array_chunk($revisions, self::ROWS) as $rows) {
            Revision::insert($rows);
        }
        foreach (array_keys($ready) as $i) {
            $this->ahead->prepare($ids[$i]);
        }
        $this->rows = $this->recipes = [];
    }

    /** A name that no shot of the job has. */
    private function named(string $name): string
    {
        $free = $name = mb_substr($name, 0, self::LETTERS);
        while (isset($this->names[$free])) {
            $free = "{$name} " . ++$this->names[$name];
        }
        $this->names[$free] = 1;

        return $free;
    }
}
