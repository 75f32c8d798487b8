<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Bundles\BundleWriter;
use App\Models\Job;
use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\EdlWriter;
use Cossel\Core\Cut\Event;
use Cossel\Core\Cut\OtioWriter;
use Cossel\Core\Cut\Rate;

/** Files as they come in, mostly right, sometimes changed here and there. */
final class Texts
{
    private ?string $bundle = null;

    public function __construct(private readonly BundleWriter $writer) {}

    /** @return array{string, string} name and text */
    public function cut(Dice $dice): array
    {
        $events = array_map(static fn(int $i): Event => new Event($i + 1, "gh{$i}", $dice->one(['/media/clip.mkv', 'none.mov', null]), $dice->one(['A1', null]), $in = $dice->whole(0, 8), $in + $dice->whole(1, 6), 20 * $i, 0), range(0, $dice->whole(0, 6)));
        $cut = new Cut('Glasshouse', Rate::parse('24/1'), $events);
        if ($dice->happens(0.5)) {
            $text = EdlWriter::write($cut);

            return ['cut.edl', $dice->happens(0.4) ? $text : Mutation::ofText($text, $dice)];
        }
        $document = json_decode(OtioWriter::json($cut), true);

        return ['cut.otio', (string) json_encode($dice->happens(0.3) ? $document : Mutation::ofDocument($document, $dice), JSON_PARTIAL_OUTPUT_ON_ERROR)];
    }

    /** The bundle of a job with its manifest changed, or with its bytes turned. */
    public function bundle(Dice $dice): string
    {
        $this->bundle ??= $this->written();
        $share = $dice->between(0, 1);
        if ($this->bundle === '' || $share < 0.2) {
            return $this->bundle;
        }
        if ($share < 0.4) {
            return Mutation::ofBytes($this->bundle, $dice);
        }
        $file = BundleWriter::temporary();
        file_put_contents($file, $this->bundle);
        $zip = new \ZipArchive();
        $zip->open($file);
        $manifest = Mutation::ofDocument(json_decode((string) $zip->getFromName(BundleWriter::MANIFEST), true), $dice);
        $zip->addFromString(BundleWriter::MANIFEST, (string) json_encode($manifest, JSON_PARTIAL_OUTPUT_ON_ERROR));
        $zip->close();
        $bytes = (string) file_get_contents($file);
        unlink($file);

        return $bytes;
    }

    public function film(Dice $dice): string
    {
        $film = (string) @file_get_contents(config('filesystems.disks.data.root') . '/clip.mkv');

        return $film === '' || $dice->happens(0.6) ? $film : Mutation::ofBytes($film, $dice);
    }

    private function written(): string
    {
        $job = Job::where('name', 'Fuzz')->first();
        if ($job === null) {
            return '';
        }
        $file = BundleWriter::temporary();
        $this->writer->write($job, null, true, $file);
        $bytes = (string) file_get_contents($file);
        unlink($file);

        return $bytes;
    }
}
