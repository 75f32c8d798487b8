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
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;
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
        return $shot->judgings()->where('revision', $shot->revision)->first();
    }

    /** Begins to look the present revision over, unless that is done or under way. */
    public function begin(Shot $shot): Judging
    {
        $shot->readyFootage();
        $judging = DB::transaction(function () use ($shot): Judging {
            $known = $this->present($shot);
            if ($known !== null && $known->message === null) {
                return $known;
            }
            $known?->delete();
            $judging = $shot->judgings()->create(['revision' => $shot->revision]);
            for ($from = $shot->from; $from <= $shot->to; $from += self::FRAMES) {
                $judging->looks()->create(['from' => $from, 'to' => min($shot->to, $from + self::FRAMES - 1)]);
            }

            return $judging;
        });
        if ($judging->wasRecentlyCreated) {
            foreach ($judging->looks as $look) {
                LookOver::dispatch($look->id);
            }
        }

        return $judging->refresh();
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
     * @return list<Finding>
     */
    public function findings(Judging $judging): array
    {
        $measures = json_decode($judging->measures ?? '{}', true, flags: JSON_THROW_ON_ERROR);

        return Findings::of($measures, $this->recipe($judging), $judging->shot->limits());
    }

    /** Two workers may come here at once with the last two looks: both would find the same. */
    private function finish(Judging $judging, Recipe $recipe): void
    {
        $parts = $judging->looks()->pluck('looks')->all();
        if ($parts === [] || in_array('', $parts, true)) {
            return;
        }
        $looks = array_replace(...array_map(static fn(string $part): array => json_decode($part, true, flags: JSON_THROW_ON_ERROR), $parts));
        $measures = json_encode((object) Findings::measures($looks, $recipe), JSON_THROW_ON_ERROR);
        DB::transaction(static function () use ($judging, $measures): void {
            $judging->update(['measures' => $measures]);
            $judging->looks()->update(['looks' => '']);
            $old = $judging->shot->judgings()->orderByDesc('updated_at')->orderByDesc('id')->pluck('id')->slice(self::KEPT);
            Judging::whereKey($old)->delete();
        });
    }

    private function recipe(Judging $judging): Recipe
    {
        return $this->recipes->read($judging->shot, $this->recipes->revision($judging->shot, $judging->revision)->document());
    }
}
