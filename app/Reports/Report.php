<?php

declare(strict_types=1);

namespace App\Reports;

use App\Cuts\CutPlace;
use App\Judging\Judgings;
use App\Models\Delivery;
use App\Models\DeliveryState;
use App\Models\FrameNote;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Version;
use App\Pictures\ShotPictures;
use App\Pictures\View;
use App\Pictures\Wanted;
use App\Treatment\Progress;
use App\Treatment\Recipes;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Telltale\Finding;
use Dompdf\Dompdf;
use Dompdf\Options;
use Illuminate\Support\Collection;

/** What was done in a job or a shot, for whoever signs it off: one page a shot, with pictures before and after, as HTML or PDF. */
final class Report
{
    private const ROWS = 270;

    public function __construct(private readonly Recipes $recipes, private readonly Judgings $judgings, private readonly Progress $progress, private readonly ShotPictures $pictures) {}

    public function ofJob(Job $job): string
    {
        return $this->page($job->name, $job->shots()->where('archived', false)->get());
    }

    public function ofShot(Shot $shot): string
    {
        return $this->page("{$shot->job->name}: {$shot->name}", new Collection([$shot]));
    }

    /** The same as a PDF. */
    public static function pdf(string $html): string
    {
        $options = new Options();
        // Nothing is fetched: pictures are in the page itself.
        $options->setIsRemoteEnabled(false)->setDefaultFont('DejaVu Sans')->setChroot([sys_get_temp_dir()])->setIsPhpEnabled(false);
        $options->setFontCache(sys_get_temp_dir())->setTempDir(sys_get_temp_dir());
        $pdf = new Dompdf($options);
        $pdf->loadHtml($html, 'UTF-8');
        $pdf->setPaper('A4');
        $pdf->render();

        return (string) $pdf->output();
    }

    /** @param Collection<int, Shot> $shots */
    private function page(string $title, Collection $shots): string
    {
        return view('report', ['title' => $title, 'made' => now()->toDateString(), 'shots' => $shots->map($this->shot(...))->all()])->render();
    }

    /** @return array<string, mixed> */
    private function shot(Shot $shot): array
    {
        $told = ['name' => $shot->name, 'notes' => trim($shot->notes), 'error' => $shot->error, 'ready' => $shot->state === ShotState::Ready];
        if (!$told['ready']) {
            return $told;
        }
        $recipe = $this->recipes->recipe($shot);
        $info = $shot->readyFootage()->info();
        $place = $shot->cut === null ? null : CutPlace::of($shot->cut);
        $frame = intdiv($shot->from + $shot->to, 2);

        return [
            ...$told,
            'footage' => sprintf('%s, %d x %d, %s frames a second, frames %d to %d', $shot->readyFootage()->name, $info->width, $info->height, rtrim(rtrim(sprintf('%.3F', $info->fps()), '0'), '.'), $shot->from, $shot->to),
            'cut' => $place === null ? null : ($place->isRetired ? 'no longer in the cut' : "event {$place->event->number}" . ($place->event->reel === null ? '' : ", reel {$place->event->reel}")),
            'frame' => $frame,
            'before' => $this->picture($shot, $frame, View::Original),
            'after' => $this->picture($shot, $frame, View::Result),
            'revision' => $shot->revision,
            'left' => $this->progress->of($shot)['left'],
            'steps' => self::steps($recipe, $shot->job->people()->pluck('name', 'slug')->all()),
            'telltales' => $this->telltales($shot, $recipe),
            'frameNotes' => $shot->frameNotes->map(static fn(FrameNote $note): array => ['frame' => $note->frame, 'text' => $note->text, 'resolved' => $note->resolved])->all(),
            'versions' => $shot->versions->map(static fn(Version $version): string => "{$version->name} (revision {$version->number})")->all(),
            'deliveries' => $shot->deliveries()->where('state', DeliveryState::Done)->get()->map(static fn(Delivery $d): array => ['file' => basename((string) $d->file), 'as' => $d->format->label(), 'revision' => $d->revision, 'sha256' => (string) $d->sha256])->all(),
        ];
    }

    /** A picture as a page can hold it. */
    private function picture(Shot $shot, int $frame, View $view): string
    {
        return 'data:image/jpeg;base64,' . base64_encode($this->pictures->picture($shot, new Wanted($frame, $view, null, self::ROWS))->jpeg);
    }

    /**
     * @param array<string, string> $people names by slug
     *
     * @return list<array{name: string, about: string, touches: list<string>}> base, areas and finish with what they do
     */
    private static function steps(Recipe $recipe, array $people): array
    {
        $words = static fn(array $touches): array => array_map(Words::touch(...), array_values($touches));
        $area = static fn(Area $area): array => [
            'name' => $area->name . ($area->on ? '' : ' (off)'),
            'about' => implode(', ', array_filter([$people[$area->person ?? ''] ?? null, Words::motion($area->motion, $recipe), $area->pick === null ? null : 'picks by colour', $area->pair?->linked === true ? "as {$recipe->area($area->pair->with)->name}" : null])),
            'touches' => $words($recipe->touches($area)),
        ];
        $steps = [['name' => 'Base', 'about' => '', 'touches' => $words($recipe->base)], ...array_map($area, $recipe->areas), ['name' => 'Finish', 'about' => '', 'touches' => $words($recipe->finish)]];

        return array_values(array_filter($steps, static fn(array $step): bool => $step['touches'] !== []));
    }

    /** @return list<array<string, mixed>>|null null where it was never looked over as it is now */
    private function telltales(Shot $shot, Recipe $recipe): ?array
    {
        $judging = $this->judgings->present($shot);

        return $judging?->measures === null ? null : array_map(static fn(Finding $finding): array => [
            'name' => Words::split($finding->telltale->name),
            'area' => $finding->area->name ?? 'whole frame',
            'measure' => rtrim(rtrim(sprintf('%.2F', $finding->measure()), '0'), '.'),
            'limit' => rtrim(rtrim(sprintf('%.2F', $finding->limit), '0'), '.'),
            'unit' => $finding->telltale->unit,
            'worst' => $finding->worst(),
            'rings' => $finding->rings(),
        ], array_values(array_filter($this->judgings->findings($judging, $recipe), static fn(Finding $finding): bool => $finding->measure() > 0.0)));
    }
}
