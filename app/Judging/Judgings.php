<?php

declare(strict_types=1);

namespace App\Judging;

use App\Models\Judging;
use App\Models\Look;
use App\Models\Shot;
use App\Treatment\AssetFiles;
use App\Treatment\Recipes;
use App\Treatment\Renderers;
use App\Work\LookOver;
use App\Work\Queues;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Telltale\Cure;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;
use Cossel\Core\Telltale\Trial;
use Illuminate\Support\Facades\DB;

/** The tell-tales of shots: looked for in the background, revision by revision, and kept. */
final class Judgings
{
    /** Frames looked at by one piece of work: few, so that nobody waits long behind it. */
    private const FRAMES = 6;
    /** Judged revisions kept of a shot, for going back and forth by undo. */
    private const KEPT = 6;

    public function __construct(private readonly Recipes $recipes, private readonly Renderers $renderers, private readonly AssetFiles $assets, private readonly ShotInspection $inspection) {}

    /** The judging of the present revision, if it was ever begun. */
    public function present(Shot $shot): ?Judging
    {
        return $shot->relationLoaded('presentJudging') ? $shot->presentJudging : $shot->presentJudging()->first();
    }

    /** Begins to look the present revision over, unless that is done or under way. */
    public function begin(Shot $shot): Judging
    {
        $shot->readyFootage();
        $judging = DB::transaction(static function () use ($shot): Judging {
            $known = $shot->presentJudging()->first();
            if ($known !== null && $known->message === null && ($known->measures !== null || self::isUnderWay())) {
                return $known;
            }
            $shot->judgings()->where('revision', $shot->revision)->delete();
            $judging = $shot->judgings()->create(['revision' => $shot->revision, 'engine' => config('cossel.engine')]);
            for ($from = $shot->from; $from <= $shot->to; $from += self::FRAMES) {
                $judging->looks()->create(['from' => $from, 'to' => min($shot->to, $from + self::FRAMES - 1)]);
            }

            // In the same transaction: either both are there or neither, whenever the server dies.
            foreach ($judging->looks as $look) {
                LookOver::dispatch($look->id);
            }

            return $judging;
        });

        return $judging->refresh();
    }

    /** Whether looks wait or are being taken. One that was begun while none is left behind by a server that died. */
    private static function isUnderWay(): bool
    {
        return DB::table('queue_jobs')->where('queue', Queues::AHEAD)->where('payload', 'like', '%LookOver%')->exists();
    }

    /** Takes a look that begin asked for, unless it was taken before a worker died; the last one makes the measures. */
    public function take(Look $look): void
    {
        $judging = $look->judging;
        if ($judging->measures !== null) {
            return;
        }
        if ($judging->shot->revision !== $judging->revision) {
            $judging->delete();

            return;
        }
        $recipe = $this->recipe($judging);
        if ($look->looks === null) {
            $inspection = new Inspection($recipe, $this->renderers->motions($recipe), $this->assets->of($recipe));
            $looks = iterator_to_array($this->inspection->looks($inspection, $judging->shot->readyFootage()->file(), range($look->from, $look->to)));
            Look::whereKey($look->id)->update(['looks' => json_encode((object) $looks, JSON_THROW_ON_ERROR)]);
        }
        if (!$judging->looks()->whereNull('looks')->exists()) {
            $this->finish($judging, $recipe);
        }
    }

    /**
     * Of a judging that is done.
     *
     * @param Recipe|null $recipe of its revision, where it is at hand
     *
     * @return list<Finding>
     */
    public function findings(Judging $judging, ?Recipe $recipe = null): array
    {
        return Findings::of($judging->measures ?? [], $recipe ?? $this->recipe($judging), $judging->shot->limits, $judging->before ?? []);
    }

    /**
     * What would cure a tell-tale of an area, or of the whole frame, as the shot is now; tried on its worst frames.
     *
     * @return list<Cure>
     */
    public function cures(Shot $shot, Recipe $recipe, string $telltale, ?string $area): array
    {
        $judging = $this->present($shot);
        foreach ($judging === null ? [] : $this->findings($judging, $recipe) as $finding) {
            if ($finding->telltale->name === $telltale && $finding->area?->id === $area) {
                $footage = $shot->readyFootage()->file();
                $trial = new Trial(fn(Recipe $cured, array $frames): array => iterator_to_array($this->inspection->looks(
                    new Inspection($cured, $this->renderers->motions($cured), $this->assets->of($cured)),
                    $footage,
                    array_values(array_filter($frames, static fn(int $frame): bool => $frame >= $shot->from && $frame <= $shot->to)),
                )));

                return $trial->cures($finding, $recipe);
            }
        }

        return [];
    }

    /** Two workers may come here at once with the last two looks: both would find the same. */
    private function finish(Judging $judging, Recipe $recipe): void
    {
        $parts = $judging->looks()->pluck('looks')->all();
        if ($parts === [] || in_array('', $parts, true)) {
            return;
        }
        $looks = array_replace(...array_map(static fn(string $part): array => json_decode($part, true, flags: JSON_THROW_ON_ERROR), $parts));
        $found = ['measures' => Findings::measures($looks, $recipe), 'before' => Findings::before($looks, $recipe)];
        DB::transaction(static function () use ($judging, $found): void {
            $judging->update($found);
            $judging->looks()->update(['looks' => '']);
            $old = $judging->shot->judgings()->orderByDesc('updated_at')->orderByDesc('id')->skip(self::KEPT)->limit(1000)->pluck('id');
            Judging::whereKey($old)->delete();
        });
    }

    private function recipe(Judging $judging): Recipe
    {
        return $this->recipes->read($judging->shot, $this->recipes->revision($judging->shot, $judging->revision)->document());
    }
}
