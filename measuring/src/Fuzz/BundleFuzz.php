<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Bundles\BadBundle;
use App\Bundles\BundleReader;
use App\Bundles\BundleWriter;
use App\Models\Job;

/** Bundles whose manifest says something else, or whose bytes are turned: refused in a sentence, or taken in so that all of it can be shown. */
final class BundleFuzz implements Fuzz
{
    /** @param \Closure(): void $restore brings a job back to write a bundle of */
    public function __construct(private readonly BundleReader $reader, private readonly \Closure $restore, private readonly Texts $texts) {}

    public function name(): string
    {
        return 'bundles';
    }

    public function about(): string
    {
        return '';
    }

    public function seconds(): float
    {
        return self::MOST_SECONDS;
    }

    public function try(Dice $dice): ?string
    {
        config(['queue.default' => 'sync']);
        if (!Job::where('name', 'Fuzz')->exists()) {
            ($this->restore)();
        }
        $file = BundleWriter::temporary();
        file_put_contents($file, $this->texts->bundle($dice));
        try {
            [$job] = $this->reader->read($file);
            foreach ($job->refresh()->shots as $shot) {
                $shot->revision > 0 && $shot->presentRevision->document();
            }
        } catch (BadBundle) {
            return null;
        } finally {
            @unlink($file);
            Job::where('name', '!=', 'Fuzz')->delete();
        }

        return null;
    }
}
