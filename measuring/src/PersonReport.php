<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Finding\Finder;
use App\Footage\FollowedFootage;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Live;

/**
 * How well people are found on every 12th frame of the footage with truth.
 */
final class PersonReport
{
    private const GOALS = ['face' => 4.0, 'lids' => 1.0, 'lips' => 1.2, 'teeth' => null, 'centre' => 0.5, 'radius' => 6.0];
    /** A part that is further off than this, in percent of the face's width, is a wrong one. */
    private const WRONG = ['face' => 8.0, 'lids' => 3.0, 'iris' => 2.0, 'lips' => 3.0, 'teeth' => 3.0];

    private const SHOTS = ['eyes_maren', 'eyes_tove', 'gh010_backlit', 'gh020_laugh', 'gh030_gaze', 'gh040_skin', 'gh050_leaf', 'gh060_two', 'mouth_kei', 'turn_ruta'];
    private const EVERY = 12;

    public function __construct(private readonly Probe $probe, private readonly FrameCache $frames, private readonly Finder $finder) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        foreach (self::SHOTS as $shot) {
            yield from $this->shot($shot);
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function shot(string $shot): \Generator
    {
        $path = base_path("demo/footage/{$shot}.webm");
        $footage = new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path));
        $truth = json_decode((string) file_get_contents(base_path("demo/truth/{$shot}.truth.json")), true, flags: JSON_THROW_ON_ERROR);
        $labels = new LabelPictures(base_path("demo/truth/labels/{$shot}.zip"));
        $counts = ['found' => 0, 'missed' => [], 'wrong' => []];
        $misses = $seconds = [];
        for ($frame = 0; $frame < $footage->info->frames(); $frame += self::EVERY) {
            $this->frames->prepare($footage, $frame, $frame, FollowedFootage::HEIGHT);
            $n = 0;
            $began = hrtime(true);
            $found = $this->finder->on($footage, [$frame], new Live(0, 0), static function (string $letter) use (&$n): string {
                return $letter . ++$n;
            })[$frame];
            $seconds[] = (hrtime(true) - $began) / 1e9;
            $people = $truth['frame'][$frame]['people'] ?? [$truth['frame'][$frame]];
            $seen = array_filter($people, static fn(array $t): bool => $t['eye_l']['pupil']['vis'] || $t['eye_r']['pupil']['vis'] || count($people) === 1);
            foreach ($people as $k => $one) {
                $accuracy = new PersonAccuracy($labels->of($frame, count($people) > 1 ? $k : null), $truth['width'], $truth['height'], $one);
                $this->compare($accuracy, in_array($one, $seen, true) ? self::nearest($found, $one, $seen, $truth['height']) : null, "{$frame}" . (count($people) > 1 ? " {$one['person']}" : ''), $counts, $misses);
            }
        }
        yield [$shot, 'parts found, missed, wrong', sprintf('%d, %s, %s', $counts['found'], self::words($counts['missed']), self::words($counts['wrong'])), 'no wrong part offered as sure'];
        foreach (self::GOALS as $what => $goal) {
            $v = $misses[$what] ?? [];
            if ($v !== []) {
                $unit = $what === 'radius' ? '% of itself' : '% of face width';
                $words = match ($what) {
                    'centre' => 'centre of irises',
                    'radius' => 'radius of irises',
                    default => $what,
                };
                yield [$shot, "{$words}, mean (worst)", sprintf('%.2f %s (%.2f)', array_sum($v) / count($v), $unit, max($v)), $goal === null ? '' : "{$goal} {$unit}"];
            }
        }
        yield [$shot, 'time of a frame, median', sprintf('%.2f s', Robust::median($seconds)), ''];
    }

    /**
     * @param array{found: int, missed: list<string>, wrong: list<string>} $counts
     * @param array<string, list<float>>                                   $misses
     */
    private function compare(PersonAccuracy $accuracy, ?FoundPerson $person, string $where, array &$counts, array &$misses): void
    {
        $parts = [['face', false], ['lids', true], ['lids', false], ['iris', true], ['iris', false], ['lips', false], ['teeth', false]];
        foreach ($parts as [$part, $left]) {
            $name = match (true) {
                $part === 'lids' || $part === 'iris' => ($left ? 'left ' : 'right ') . $part,
                default => $part,
            };
            $proposal = self::part($person, $part, $left);
            $there = $accuracy->there($part, $left);
            if ($proposal === null || $proposal->doubt !== null) {
                if ($there) {
                    $counts['missed'][] = "{$where}: {$name}";
                }
                continue;
            }
            $off = null;
            $shape = $proposal->area->outline->shapes[0];
            if ($shape instanceof Ellipse && $part === 'iris') {
                [$off, $radius] = $accuracy->iris($shape, $left);
                $misses['centre'][] = $off;
                $misses['radius'][] = $radius;
            } else {
                $off = $accuracy->outline($proposal->area, $left);
                if ($off !== null) {
                    $misses[$part][] = $off;
                }
            }
            if ($off === null || $off > self::WRONG[$part] || ($part === 'teeth' && !$there)) {
                $counts['wrong'][] = "{$where}: {$name}";
            } else {
                ++$counts['found'];
            }
        }
    }

    private static function part(?FoundPerson $person, string $part, bool $left): ?Proposal
    {
        foreach ($person === null ? [] : $person->proposals as $proposal) {
            if ($proposal->area->part === $part && (!in_array($part, ['lids', 'iris'], true) || str_starts_with($proposal->area->name, 'Left') === $left)) {
                return $proposal;
            }
        }

        return null;
    }

    /**
     * The found person that lies on one of the truth, and on no other more.
     *
     * @param list<FoundPerson>          $found
     * @param array<string, mixed>       $one
     * @param array<int, array<string, mixed>> $people
     */
    private static function nearest(array $found, array $one, array $people, int $height): ?FoundPerson
    {
        $apart = static fn(FoundPerson $f, array $t): float => hypot($f->box[0] + $f->box[2] / 2 - $t['nose_tip']['x'] / $height, $f->box[1] + $f->box[3] / 2 - $t['nose_tip']['y'] / $height);
        $own = array_values(array_filter($found, static fn(FoundPerson $f): bool => $apart($f, $one) <= min(array_map(static fn(array $t): float => $apart($f, $t), $people))));
        usort($own, static fn(FoundPerson $a, FoundPerson $b): int => $apart($a, $one) <=> $apart($b, $one));

        return $own[0] ?? null;
    }

    /** @param list<string> $list */
    private static function words(array $list): string
    {
        return $list === [] ? 'none' : count($list) . ' (' . implode('; ', $list) . ')';
    }
}
