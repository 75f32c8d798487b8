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

    /** Takes a look that begin asked for; the last one makes the measures. */
    public function take(Look $look): void
    {
        $judging = $look->judging;
        $shot = $judging->shot;
        if ($look->looks !== null || $judging->measures !== null) {
            return;
        }
        if ($shot->revision !== $judging->revision) {
            $judging->delete();

            return;
        }
        $recipe = $this->recipe($judging);
        $inspection = new Inspection($recipe, $this->renderers->motions($recipe), $this->assets->of($recipe));
        $looks = iterator_to_array($this->inspection->looks($inspection, $shot->readyFootage()->file(), range($look->from, $look->to)));
        Look::whereKey($look->id)->update(['looks' => json_encode((object) $looks, JSON_THROW_ON_ERROR)]);
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

    private function finish(Judging $judging, Recipe $recipe): void
    {
        $looks = [];
        foreach ($judging->looks()->pluck('looks') as $part) {
            $looks += json_decode($part, true, flags: JSON_THROW_ON_ERROR);
        }
        DB::transaction(static function () use ($judging, $looks, $recipe): void {
            $judging->update(['measures' => json_encode((object) Findings::measures($looks, $recipe), JSON_THROW_ON_ERROR)]);
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
