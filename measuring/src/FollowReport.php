<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Following\AreaFollower;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\RecipeReader;
use Illuminate\Filesystem\Filesystem;

/** How well following does on the demo shots, against their ground truth. */
final class FollowReport
{
    private const FACES = ['gh010_backlit' => 40, 'gh040_skin' => 40, 'gh020_laugh' => 40, 'gh050_leaf' => 20, 'turn_ruta' => 0];
    /** What a relief is to reach, in percent of the face's width. */
    private const RELIEF = ['gh010_backlit' => '1.8 %', 'turn_ruta' => '2.5 %'];
    private const MODELS = [Model::Similarity, Model::Affine, Model::Perspective, Model::Relief];

    public function __construct(private readonly Probe $probe, private readonly FrameCache $frames, private readonly AreaFollower $follower, private readonly RecipeReader $reader, private readonly Filesystem $files, private readonly TakenReport $taken) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        foreach (self::FACES as $shot => $start) {
            yield from $this->face($shot, $start);
        }
        yield from $this->irises();
        yield from $this->lips();
        yield from $this->taken->rows();
        yield from $this->confidence();
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function face(string $shot, int $start): \Generator
    {
        $footage = $this->footage(self::shot($shot));
        foreach (self::MODELS as $model) {
            $accuracy = FollowAccuracy::of(self::truth($shot), $start, $model);
            $began = hrtime(true);
            $cpu = self::cpu();
            $track = $this->follow($footage, $accuracy->area(), $start);
            $seconds = (hrtime(true) - $began) / 1e9;
            $cpu = self::cpu() - $cpu;
            $covered = $this->covered($shot);
            $errors = array_diff_key($accuracy->errors($track), array_flip($covered));
            $error = FollowAccuracy::rms($errors);
            $section = "face on {$shot} from frame {$start}, {$model->value}";
            $what = 'error of the face points, RMS' . ($covered === [] ? '' : ' outside the covered frames');
            if ($model === Model::Relief) {
                $corners = FollowAccuracy::rms(array_diff_key($accuracy->errors($track, FollowAccuracy::CORNERS), array_flip($covered)));
                yield [$section, $what, sprintf('%.2f %% of face width', $error), self::RELIEF[$shot] ?? 'no worse than by perspective'];
                yield [$section, 'of the corners of eyes and mouth alone', sprintf('%.2f %%', $corners), $shot === 'gh010_backlit' ? '1.0 %' : ''];
            } else {
                $floor = FollowAccuracy::rms(array_diff_key($accuracy->floors(), array_flip($covered)));
                yield [$section, $what, sprintf('%.2f %% of face width: floor %.2f %% %+.2f', $error, $floor, $error - $floor), $shot === 'turn_ruta' ? 'floor + 0.50' : 'floor + 0.30'];
            }
            yield [$section, 'largest jump of the error between neighbouring frames', sprintf('%.2f %%', self::jump($errors)), ''];
            yield [$section, 'speed with all checks, one core', sprintf('%.0f frames/s (%.0f by CPU time)', count($track->steps) / $seconds, count($track->steps) / $cpu), '24 frames/s'];
            if ($covered !== []) {
                yield [$section, 'declared lost and bridged', Spans::words(self::unseen($track)), Spans::words($covered) . ', ends off by 1 at most'];
                yield [$section, 'error five frames after the cover', sprintf('%.2f %%', $errors[max($covered) + 5]), 'as before it'];
            }
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function irises(): \Generator
    {
        $footage = $this->footage(self::shot('gh030_gaze'));
        foreach ([0, 40] as $start) {
            foreach (['eye_l' => 'left', 'eye_r' => 'right'] as $eye => $side) {
                $accuracy = IrisAccuracy::of(self::truth('gh030_gaze'), $eye, $start);
                $track = $this->follow($footage, $accuracy->area(), $start);
                [$centre, $radius] = $accuracy->errors($track);
                [$said, $true] = $accuracy->closed($track);
                $section = "{$side} iris on gh030_gaze from frame {$start}";
                yield [$section, 'centre on open frames, RMS', sprintf('%.2f px', $centre), '1.5 px'];
                yield [$section, 'radius, largest miss', sprintf('%.1f %%', $radius), '6 %'];
                yield [$section, 'lids closed', $said, "{$true}, ends off by 1 at most"];
            }
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function lips(): \Generator
    {
        $footage = $this->footage(self::shot('gh020_laugh'));
        foreach ([0, 40] as $start) {
            $accuracy = LipAccuracy::of(base_path('demo/truth/labels/gh020_laugh.zip'), $start);
            $distances = $accuracy->distances($this->follow($footage, $accuracy->area(), $start));
            yield ["lips on gh020_laugh from frame {$start}, outline", 'distance to the lips’ border, mean', sprintf('%.2f px (worst frame %.2f)', array_sum($distances) / count($distances), max($distances)), '2.5 px'];
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function confidence(): \Generator
    {
        $folder = sys_get_temp_dir() . '/cossel-spoilt-' . getmypid();
        $this->files->makeDirectory($folder);
        try {
            foreach (['gh010_backlit', 'gh020_laugh', 'gh040_skin'] as $shot) {
                foreach (Spoilt::ways() as $n => $way) {
                    $copy = "{$folder}/{$shot}-{$n}.mkv";
                    Spoilt::copy(self::shot($shot), $way, $copy);
                    $accuracy = FollowAccuracy::of(self::truth($shot), 40, Model::Similarity);
                    $track = $this->follow($this->footage($copy), $accuracy->area(), 40);
                    $errors = $accuracy->errors($track);
                    unset($errors[40]);
                    $confidence = array_map(static fn(int $frame): float => $track->steps[$frame]->confidence, array_keys($errors));
                    yield ["confidence on spoilt {$shot}, similarity from frame 40", "{$way}: rank correlation with the true error", sprintf('%.2f', Ranks::correlation($confidence, array_values($errors))), 'below -0.50'];
                    unlink($copy);
                }
            }
        } finally {
            $this->files->deleteDirectory($folder);
        }
    }

    /** @param array<string, mixed> $area */
    private function follow(FootageFile $footage, array $area, int $start): Track
    {
        $recipe = $this->reader->read(Samples::recipe($footage, areas: [$area]));

        return $this->follower->follow($footage, $recipe, $recipe->areas[0], null, [], $start, 0, $footage->info->frames() - 1);
    }

    private function footage(string $path): FootageFile
    {
        $footage = new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path));
        $this->frames->prepare($footage, 0, $footage->info->frames() - 1, 540);

        return $footage;
    }

    /** @return list<int> frames on which more than half of the face is hidden */
    private function covered(string $shot): array
    {
        $truth = json_decode((string) file_get_contents(self::truth($shot)), true, flags: JSON_THROW_ON_ERROR);

        return array_keys(array_filter($truth['frame'], static fn(array $frame): bool => ($frame['occluded'] ?? 0) > 0.5));
    }

    /** @return list<int> */
    private static function unseen(Track $track): array
    {
        return array_keys(array_filter($track->steps, static fn(Step $step): bool => in_array($step->state, [State::Lost, State::Bridged], true)));
    }

    /** @param array<int, float> $errors */
    private static function jump(array $errors): float
    {
        $jump = 0.0;
        foreach ($errors as $frame => $error) {
            $jump = max($jump, abs($error - ($errors[$frame - 1] ?? $error)));
        }

        return $jump;
    }

    private static function shot(string $name): string
    {
        return base_path("demo/footage/{$name}.webm");
    }

    private static function truth(string $name): string
    {
        return base_path("demo/truth/{$name}.truth.json");
    }

    private static function cpu(): float
    {
        $usage = getrusage();

        return $usage === false ? 0.0 : $usage['ru_utime.tv_sec'] + $usage['ru_utime.tv_usec'] / 1e6 + $usage['ru_stime.tv_sec'] + $usage['ru_stime.tv_usec'] / 1e6;
    }
}
