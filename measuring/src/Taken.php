<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Finding\Finder;
use App\Following\Together;
use App\Footage\FootageFile;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Source;

/** A person as somebody takes them who corrects nothing: what is sure on a frame, followed at once. */
final readonly class Taken
{
    /** @param list<string> $words what is doubtful and what is weak: sentences without their stops */
    private function __construct(public Recipe $recipe, public Motions $motions, public array $words) {}

    public static function on(Finder $finder, Together $together, FootageFile $footage, int $start): self
    {
        $info = $footage->info;
        $last = $info->frames() - 1;
        $found = $finder->on($footage, [$start], new Live(0, $last), self::ids())[$start];
        $areas = $words = [];
        foreach ($found === [] ? [] : $found[0]->proposals as $proposal) {
            if ($proposal->doubt === null) {
                $areas[] = $proposal->area;
            } else {
                $words[] = "{$proposal->area->name} doubted: {$proposal->doubt}";
            }
        }
        $recipe = new Recipe(new Source($footage->sha256, [0, $last], $info->rate, [$info->width, $info->height]), areas: $areas);
        [$recipe, $tracks, $weak] = $together->follow($footage, $recipe, array_column($areas, 'id'), [], $start);

        return new self($recipe, new Motions($recipe, $tracks), [...$words, ...$weak]);
    }

    /** @return \Closure(string): string */
    public static function ids(): \Closure
    {
        $n = 0;

        return static function (string $letter) use (&$n): string {
            return $letter . ++$n;
        };
    }
}
