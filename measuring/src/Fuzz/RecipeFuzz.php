<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use Cossel\Core\Colour\InvalidCube;
use Cossel\Core\Motion\MissingTrack;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Merge;
use Cossel\Core\Recipe\MergeConflict;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\UnknownId;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Touch\Asset;
use Cossel\Core\Touch\Choice;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\MissingAsset;
use Cossel\Core\Touch\NoAssets;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Parameter;
use Cossel\Core\Touch\Points;

/** Recipes: those of the demo and made-up ones of every kind of touch and shape, changed here and there. */
final class RecipeFuzz implements Fuzz
{
    /** More than that is refused before it is rendered; here the rest of it is not waited for, either. */
    private const SECONDS = 0.5;

    private readonly Kinds $kinds;
    private readonly RecipeReader $reader;
    private readonly Frame $frame;

    /** @param non-empty-list<mixed> $documents to begin with */
    public function __construct(private readonly array $documents)
    {
        $this->kinds = Kinds::all();
        $this->reader = new RecipeReader($this->kinds);
        [$width, $height] = [96, 54];
        $codes = '';
        for ($i = 0; $i < 3 * $width * $height; ++$i) {
            $codes .= pack('v', 5000 + ($i * 7919) % 55000);
        }
        $this->frame = new Frame(new FrameFormat($width, $height), $codes);
    }

    public function name(): string
    {
        return 'recipes';
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
        $whole = $dice->happens(0.5) ? $dice->one($this->documents) : $this->madeUp($dice);
        $document = $dice->happens(0.1) ? $whole : Mutation::ofDocument($whole, $dice);
        try {
            $recipe = $this->reader->read($document);
        } catch (InvalidRecipe) {
            return null;
        }
        $writer = new RecipeWriter();
        $json = $writer->json($recipe);
        $again = $writer->json($this->reader->read(json_decode($json, true, flags: JSON_THROW_ON_ERROR)));
        if ($again !== $json) {
            return 'is not read as it was written';
        }

        return $this->merged($whole, $json) ?? $this->rendered($recipe, $dice);
    }

    private function merged(mixed $base, string $json): ?string
    {
        if (!is_array($base)) {
            return null;
        }
        try {
            Merge::of($base, json_decode($json, true), $base);
        } catch (MergeConflict) {
            return 'clashes with what was not changed';
        }

        return null;
    }

    private function rendered(Recipe $recipe, Dice $dice): ?string
    {
        $number = $dice->whole(0, 100);
        try {
            $renderer = new FrameRenderer($recipe, new Motions($recipe, []), new NoAssets());
            if ($renderer->seconds($this->frame, $number, $this->frame->format->rect()) > self::SECONDS) {
                return null;
            }
            $bytes = $renderer->frame($this->frame, $number);
            foreach (array_slice($recipe->areas, 0, 2) as $area) {
                foreach ($renderer->matte($this->frame, $area, $number, $this->frame->format->rect())->v as $v) {
                    if (is_nan($v) || $v < -1e-9 || $v > 1 + 1e-9) {
                        return "has a matte of {$v}";
                    }
                }
            }
        } catch (MissingTrack|MissingAsset|InvalidCube|UnknownId) {
            return null;
        }

        return strlen($bytes) === $this->frame->format->bytes() ? null : 'is not rendered whole';
    }

    /** @return array<string, mixed> a recipe of the right form with anything in it */
    private function madeUp(Dice $dice): array
    {
        $areas = [];
        for ($n = $dice->whole(0, 4), $i = 0; $i < $n; ++$i) {
            $areas[] = [
                'id' => "a{$i}", 'name' => "Area {$i}", 'live' => ['from' => 0, 'to' => 83, 'fadeIn' => $dice->whole(0, 5)],
                'outline' => ['at' => 0, 'invert' => $dice->happens(0.1), 'shapes' => array_map(static fn(int $k): array => self::shape($dice, "s{$i}{$k}", $i), range(0, $dice->whole(0, 3)))],
                'motion' => $i > 0 && $dice->happens(0.3) ? ['by' => 'ride', 'on' => 'a' . $dice->whole(0, $i - 1)] : ['by' => 'hand', 'keys' => []],
                'strength' => self::keyed($dice, 0, 1),
                'touches' => array_map(fn(int $k): array => $this->touch($dice, "t{$i}{$k}", true), range(0, $dice->whole(0, 4))),
            ];
        }

        return [
            'cossel' => 'recipe/1', 'space' => 'bt709',
            'source' => ['sha256' => str_repeat('ab', 32), 'span' => [0, 83], 'rate' => '24/1', 'size' => [96, 54]],
            'assets' => [], 'base' => array_map(fn(int $k): array => $this->touch($dice, "b{$k}", false), range(0, $dice->whole(0, 2))),
            'areas' => $areas, 'finish' => $dice->happens(0.5) ? [['id' => 'legal', 'kind' => 'legal']] : [],
        ];
    }

    /** @return array<string, mixed> */
    private static function shape(Dice $dice, string $id, int $area): array
    {
        $place = static fn(): array => [$dice->between(-0.2, 2), $dice->between(-0.2, 1.2)];
        $shape = match ($dice->whole(0, $area > 0 ? 3 : 2)) {
            0 => ['kind' => 'ellipse', 'centre' => $place(), 'radii' => [$dice->between(0.0001, 1), $dice->between(0.0001, 1)], 'turn' => $dice->between(-400, 400)],
            1 => ['kind' => 'box', 'centre' => $place(), 'radii' => [$dice->between(0.0001, 1), $dice->between(0.0001, 1)], 'turn' => $dice->between(-400, 400), 'round' => $dice->between(0, 1)],
            2 => ['kind' => 'path', 'points' => array_map(static fn(): array => ['at' => $place(), 'in' => [$dice->between(-0.3, 0.3), 0], 'out' => [0, $dice->between(-0.3, 0.3)]], range(1, $dice->whole(2, 12)))],
            default => ['kind' => 'area', 'of' => 'a' . $dice->whole(0, $area - 1)],
        };
        if ($shape['kind'] !== 'area') {
            $shape += ['featherIn' => $dice->between(0, 0.5), 'featherOut' => $dice->between(0, 0.5), 'grow' => $dice->between(-0.3, 0.3)];
        }

        return ['id' => $id, 'join' => $dice->one(['add', 'cut', 'keep']), 'opacity' => $dice->between(0, 1), ...$shape];
    }

    /** @return array<string, mixed> */
    private function touch(Dice $dice, string $id, bool $inArea): array
    {
        do {
            $kind = $dice->one($this->kinds->list());
        } while ($kind instanceof Legal || (!$inArea && $kind instanceof InArea));
        $settings = [];
        foreach ($kind->parameters() as $parameter) {
            if ($dice->happens(0.6)) {
                $settings[$parameter->name] = self::setting($dice, $parameter);
            }
        }
        $side = $inArea && !$kind instanceof InArea && $dice->happens(0.2) ? ['side' => 'outside'] : [];

        return ['id' => $id, 'kind' => $kind->name(), 'amount' => self::keyed($dice, 0, 1), ...$side, ...$settings];
    }

    private static function setting(Dice $dice, Parameter $parameter): mixed
    {
        return match (true) {
            $parameter instanceof Number => self::keyed($dice, $parameter->least, $parameter->most),
            $parameter instanceof Choice => $dice->one($parameter->words),
            $parameter instanceof Points => array_map(static fn(int $i): array => [$parameter->x[0] + ($parameter->x[1] - $parameter->x[0]) * $i / 8, $dice->between(...$parameter->y)], range(0, $dice->whole(1, 8))),
            $parameter instanceof Asset => null,
            default => null,
        };
    }

    private static function keyed(Dice $dice, float $least, float $most): mixed
    {
        // Ends of ranges more often than chance would have them.
        $value = static fn(): float => $dice->happens(0.3) ? $dice->one([$least, $most]) : $dice->between($least, $most);

        return $dice->happens(0.2) ? ['value' => $value(), 'keys' => [['frame' => 3, 'value' => $value()], ['frame' => 50, 'value' => $value(), 'ease' => $dice->one(['smooth', 'linear', 'hold'])]]] : $value();
    }
}
