<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Models\Shot;
use App\Reports\Report;
use App\Treatment\AssetFiles;
use App\Treatment\OutlineFiles;
use App\Treatment\Renderers;
use App\Treatment\Tracks;
use Cossel\Core\Colour\CdlFile;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Render\BakedCube;
use Cossel\Core\Render\BaseCdl;
use Illuminate\Filesystem\Filesystem;

/** What other programs need beside a delivered film: mattes, tracks, outlines, the base as decision list, base and finish as a table. */
final class Beside
{
    /** Entries along an axis of a table. */
    private const SIZES = ['cube33' => 33, 'cube65' => 65];

    public function __construct(
        private readonly Renderers $renderers,
        private readonly Tracks $tracks,
        private readonly AssetFiles $assets,
        private readonly RecipeWriter $writer,
        private readonly MatteFiles $mattes,
        private readonly Report $report,
        private readonly Filesystem $files,
    ) {}

    /** Writes all that is wished into a folder. */
    public function write(Wishes $wishes, Recipe $recipe, Shot $shot, int $from, int $to, string $folder, string $name): void
    {
        $footage = $shot->readyFootage()->file();
        $this->files->makeDirectory($folder, recursive: true, force: true);
        $motions = $this->renderers->motions($recipe);
        if ($wishes->mattes !== null) {
            $areas = array_values(array_filter($recipe->areas, static fn(Area $area): bool => $wishes->areas === null || in_array($area->id, $wishes->areas, true)));
            $this->mattes->write($this->renderers->of($recipe), $areas, $footage, $from, $to, "{$folder}/mattes", $wishes->mattes);
        }
        $about = [];
        foreach ($wishes->beside as $wish) {
            switch ($wish) {
                case 'recipe':
                    $this->files->put("{$folder}/{$name}.recipe.json", $this->writer->json($recipe));
                    break;
                case 'report':
                    $html = $this->report->ofShot($shot);
                    $this->files->put("{$folder}/{$name}.report.html", $html);
                    $this->files->put("{$folder}/{$name}.report.pdf", Report::pdf($html));
                    break;
                case 'tracks':
                    $this->files->put("{$folder}/tracks.json", TracksFile::written($recipe, $this->tracks->of($recipe)));
                    $this->files->put("{$folder}/tracks.csv", TracksFile::table($recipe, $motions, [$from, $to]));
                    break;
                case 'outlines':
                    foreach ($recipe->areas as $area) {
                        $this->files->makeDirectory("{$folder}/outlines/{$area->id}", recursive: true, force: true);
                        for ($frame = $from; $frame <= $to; ++$frame) {
                            $this->files->put(sprintf('%s/outlines/%s/%06d.svg', $folder, $area->id, $frame), OutlineFiles::svg($recipe, $motions, $area, $frame));
                        }
                    }
                    break;
                case 'cdl':
                    ['corrections' => $corrections, 'left' => $left] = BaseCdl::of($recipe, $footage->info->transfer, $from);
                    $corrections === [] || $this->files->put("{$folder}/base.ccc", CdlFile::write('ccc', $corrections));
                    array_push($about, ...array_map(static fn(string $words): string => "base.ccc: {$words}.", $corrections === [] ? [...$left, 'the base has nothing that a decision list can say'] : $left));
                    break;
                default:
                    $baked = BakedCube::of($recipe, $footage->info->format(), $from, self::SIZES[$wish], $name, $this->assets->of($recipe));
                    $this->files->put("{$folder}/{$wish}.cube", $baked->cube->text($baked->left));
                    array_push($about, ...array_map(static fn(string $words): string => "{$wish}.cube: {$words}.", $baked->left));
            }
        }
        $about === [] || $this->files->put("{$folder}/left out.txt", implode("\n", $about) . "\n");
    }
}
