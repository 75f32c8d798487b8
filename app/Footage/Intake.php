<?php

declare(strict_types=1);

namespace App\Footage;

use App\Models\Footage;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use Illuminate\Support\Facades\DB;

/** Takes a file in as footage: probes it, keeps it by its content, and gives it to a shot. Each step can be done again. */
final class Intake
{
    public function __construct(private readonly Probe $probe, private readonly ImageSequence $sequence, private readonly FootageStore $store, private readonly Recipes $recipes) {}

    /**
     * The file stays where it is; footage known already is not kept twice.
     *
     * @param bool $ours whether the file is ours, to be moved on; others are copied
     *
     * @throws UnreadableFootage|RefusedFootage when it is not taken
     */
    public function take(string $path, string $name, bool $ours): Footage
    {
        $sha256 = is_file($path) || is_dir($path) ? ImageSequence::sha256($path) : '';
        if ($sha256 === '') {
            throw UnreadableFootage::gone($name);
        }
        $notes = [];
        $make = function (string $into) use ($path, $sha256, $ours, &$notes): string {
            if (ImageSequence::is($path)) {
                $notes = $this->sequence->toFootage($path, $into);

                return (string) hash_file('sha256', $into);
            }
            if (!($ours && @link($path, $into)) && !copy($path, $into)) {
                throw new \RuntimeException('The data folder cannot be written to.');
            }

            return $sha256;
        };

        return $this->store->keep($sha256, $name, $make, function (string $file) use (&$notes): FootageInfo {
            return $this->probe->read($file)->withDamage($notes);
        });
    }

    /**
     * Gives footage to a shot and begins its recipe.
     *
     * @param array{int, int|null}|null $span
     *
     * @throws RefusedFootage when the span is not within the footage
     */
    public function fill(Shot $shot, Footage $footage, ?array $span): void
    {
        [$from, $to] = self::span($footage, $span);
        DB::transaction(function () use ($shot, $footage, $from, $to): void {
            $shot->update(['footage_id' => $footage->id, 'from' => $from, 'to' => $to, 'state' => ShotState::Ready, 'error' => null]);
            if ($shot->revision === 0) {
                $this->recipes->begin($shot->setRelation('footage', $footage), $footage);
            }
        });
    }

    /**
     * @param array{int, int|null}|null $span
     *
     * @return array{int, int}
     */
    public static function span(Footage $footage, ?array $span): array
    {
        $last = $footage->info()->frames() - 1;
        [$from, $to] = [$span[0] ?? 0, $span[1] ?? $last];
        if ($from < 0 || $to > $last || $from > $to) {
            throw RefusedFootage::span($from, $to, $last);
        }

        return [$from, $to];
    }
}
