<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Render;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\MissingAsset;
use Cossel\Core\Touch\Number;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ChangeTest extends TestCase
{
    private const NUMBER = 3;
    private const PARTS = ['a' => [0.35, 0.35], 'b' => [0.9, 0.55], 'c' => [1.35, 0.5]];

    /** @param array<string, mixed> $document */
    private static function renderer(array $document): FrameRenderer
    {
        $recipe = self::read($document);

        return new FrameRenderer($recipe, new Motions($recipe, []), new class implements Assets {
            public function cube(string $name): Cube
            {
                throw MissingAsset::named($name);
            }

            public function frame(string $name, int $number, int $rows): Frame
            {
                return FrameRendererTest::frame();
            }
        });
    }

    /** @return array<string, mixed> a touch with its numbers anywhere near their neutral values */
    private static function touch(string $id, bool $inArea, Chance $chance): array
    {
        $kinds = array_values(array_filter(Kinds::all()->list(), static fn($kind): bool => !in_array($kind->name(), ['lut', 'insert'], true) && ($inArea || (!$kind instanceof InArea && $kind->name() !== 'legal'))));
        $kind = $kinds[$chance->whole(0, count($kinds) - 1)];
        if ($kind->name() === 'legal') {
            return ['id' => $id, 'kind' => 'exposure', 'stops' => 1];
        }
        $touch = ['id' => $id, 'kind' => $kind->name(), 'amount' => $chance->between(0.3, 1.0)];
        if ($inArea && !$kind instanceof InArea) {
            $touch['side'] = $chance->whole(0, 3) === 0 ? 'outside' : 'inside';
        }
        foreach ($kind->parameters() as $parameter) {
            if ($parameter instanceof Number) {
                $share = $chance->between(0.0, 0.12);
                $touch[$parameter->name] = $parameter->neutral + $share * (($chance->whole(0, 1) === 0 ? $parameter->least : $parameter->most) - $parameter->neutral);
            }
        }

        return $touch;
    }

    /** @return array<string, mixed> */
    private static function area(string $id, Chance $chance): array
    {
        [$x, $y] = self::PARTS[$id];
        $shape = ['id' => "{$id}s", 'kind' => 'ellipse', 'centre' => [$x, $y], 'radii' => [$chance->between(0.08, 0.16), $chance->between(0.08, 0.2)], 'featherOut' => $chance->between(0, 0.06)];
        $area = ['id' => $id, 'name' => $id, 'outline' => ['at' => 0, 'shapes' => [$shape]], 'live' => ['from' => 0, 'to' => 83], 'touches' => []];
        for ($k = $chance->whole(0, 2); $k >= 0; --$k) {
            $area['touches'][] = self::touch("{$id}{$k}", true, $chance);
        }
        if ($chance->whole(0, 2) === 0) {
            $area['pick'] = ['light' => [0.2, 0.7, 0.1], 'clean' => ['specks' => 0.03, 'holes' => 0.0], 'follow' => $chance->whole(0, 1) === 0 ? 0.5 : null];
        }
        if ($id === 'c' && $chance->whole(0, 1) === 0) {
            $area['motion'] = ['by' => 'ride', 'on' => 'b'];
        }
        if ($id === 'c' && $chance->whole(0, 1) === 0) {
            $area['outline']['shapes'][] = ['id' => 'cb', 'kind' => 'area', 'of' => 'a', 'join' => 'add'];
        }

        return $area;
    }

    /** @return array<string, mixed> */
    private static function document(Chance $chance): array
    {
        return Documents::recipe([
            'base' => $chance->whole(0, 1) === 0 ? [self::touch('base', false, $chance)] : [],
            'areas' => array_map(static fn(string $id): array => self::area($id, $chance), array_keys(self::PARTS)),
            'finish' => $chance->whole(0, 1) === 0 ? [self::touch('end', false, $chance)] : [],
        ]);
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<string, mixed>
     */
    private static function edited(array $document, Chance $chance): array
    {
        $k = $chance->whole(0, 2);
        $area = &$document['areas'][$k];
        $id = $area['id'];
        $last = count($area['touches']) - 1;
        match ($chance->whole(0, 11)) {
            0, 1, 2 => $area['touches'][$last] = ['id' => $area['touches'][$last]['id']] + self::touch('', true, $chance),
            3 => $area['touches'][0]['on'] = false,
            4 => $area['outline']['shapes'][0]['centre'][0] += 0.05,
            5 => $area['motion'] = ['by' => 'none', 'keys' => [['frame' => 3, 'move' => [0.02, 0.03]]]],
            6 => $area['touches'][] = self::touch("{$id}new", true, $chance),
            7 => array_splice($area['touches'], 0, 1),
            8 => $document['areas'] = array_reverse($document['areas']),
            9 => $area['pick'] = ['light' => [0.3, 0.9, 0.2]],
            10 => $document['base'] = [self::touch('base', false, $chance)],
            11 => $area['strength'] = 0.5,
        };

        return $document;
    }

    /** @return iterable<string, array{int}> */
    public static function seeds(): iterable
    {
        for ($seed = 1; $seed <= 10; ++$seed) {
            yield "seed {$seed}" => [$seed];
        }
    }

    #[DataProvider('seeds')]
    public function test_outside_what_it_says_not_one_code_value_differs(int $seed): void
    {
        $chance = Chance::seeded($seed);
        $frame = FrameRendererTest::frame();
        $all = $frame->format->rect();
        $small = 0;
        for ($round = 0; $round < 5; ++$round) {
            $document = self::document($chance);
            $edited = self::edited($document, $chance);
            if ($chance->whole(0, 2) === 0) {
                $edited = self::edited($edited, $chance);
            }
            [$one, $other] = [self::renderer($document), self::renderer($edited)];
            $changed = $one->changed($other, $frame, self::NUMBER);
            self::assertSame('', self::beyond($changed, new Frame($frame->format, $one->frame($frame, self::NUMBER)), new Frame($frame->format, $other->frame($frame, self::NUMBER))), json_encode([$document, $edited], JSON_THROW_ON_ERROR));
            $small += $changed->count() < 0.6 * $all->count() ? 1 : 0;
            foreach (array_keys(self::PARTS) as $id) {
                [$a, $b] = array_map(static fn(FrameRenderer $renderer, array $of): array => $renderer->matte($frame, self::read($of)->area($id), self::NUMBER, $all)->v, [$one, $other], [$document, $edited]);
                $changed = $one->matteChanged($other, $frame, $id, self::NUMBER);
                foreach (array_keys(array_filter($a, static fn(float $m, int $i): bool => $m !== $b[$i], ARRAY_FILTER_USE_BOTH)) as $i) {
                    self::assertTrue($changed->contains(Rect::of($i % $all->width, intdiv($i, $all->width), 1, 1)), "matte of {$id}");
                }
            }
        }
        self::assertGreaterThan(0, $small, 'that it is everywhere is always true, and of no use');
    }

    /** @param array<string, mixed> $document */
    private static function read(array $document): Recipe
    {
        return (new RecipeReader(Kinds::all()))->read(json_decode(json_encode($document, JSON_THROW_ON_ERROR), true));
    }

    /** Where two frames differ outside a rectangle, in words. */
    private static function beyond(Rect $rect, Frame $one, Frame $other): string
    {
        $width = $one->format->width;
        $size = 2 * $width;
        foreach (str_split($one->bytes, $size) as $k => $row) {
            $theirs = substr($other->bytes, $k * $size, $size);
            $y = $k % $one->format->height;
            $inside = $y >= $rect->y && $y < $rect->bottom();
            $parts = $inside ? [[0, 2 * $rect->x], [2 * $rect->right(), $size]] : [[0, $size]];
            foreach ($parts as [$from, $to]) {
                if (substr($row, $from, $to - $from) !== substr($theirs, $from, $to - $from)) {
                    return sprintf('row %d of plane %d differs outside %d,%d to %d,%d', $y, intdiv($k, $one->format->height), $rect->x, $rect->y, $rect->right(), $rect->bottom());
                }
            }
        }

        return '';
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>, list<int>|null}> two recipes' changes; where they differ: left, top, right, bottom of a frame of 160 x 90, or null */
    public static function edits(): iterable
    {
        $spot = ['id' => 's', 'kind' => 'box', 'centre' => [0.5, 0.5], 'radii' => [0.1, 0.1]];
        $area = static fn(array $touches, array $changes = []): array => ['areas' => [['id' => 'a', 'name' => 'A', 'outline' => ['at' => 0, 'shapes' => [$spot]], 'live' => ['from' => 0, 'to' => 83], 'touches' => $touches, ...$changes]]];
        $light = static fn(float $stops, array $more = []): array => ['id' => 't', 'kind' => 'exposure', 'stops' => $stops, ...$more];
        $outside = ['id' => 'o', 'kind' => 'exposure', 'stops' => -1, 'side' => 'outside'];
        $blur = ['id' => 'b', 'kind' => 'blur', 'radius' => 0.02];
        yield 'nothing' => [$area([$light(1)]), $area([$light(1)]), null];
        yield 'a name' => [$area([$light(1)]), $area([$light(1)], ['name' => 'B']), null];
        yield 'inside, with an outside standing' => [$area([$light(1), $outside]), $area([$light(2), $outside]), [35, 35, 55, 55]];
        yield 'outside' => [$area([$outside]), $area([]), [0, 0, 160, 90]];
        yield 'base' => [['base' => [$light(1)]], [], [0, 0, 160, 90]];
        $later = static fn(float $stops): array => $light(1, ['stops' => ['value' => 1, 'keys' => [['frame' => 3, 'value' => 1], ['frame' => 9, 'value' => $stops]]]]);
        yield 'a keyframe that is felt later' => [$area([$later(0)]), $area([$later(2)]), null];
        $reach = Gaussian::reach(0.02 * 90);
        yield 'carried on by a blur of the finish' => [$area([$light(1)]) + ['finish' => [$blur]], $area([$light(2)]) + ['finish' => [$blur]], [35 - $reach, 35 - $reach, 55 + $reach, 55 + $reach]];
        $beside = ['id' => 'b', 'name' => 'B', 'outline' => ['at' => 0, 'shapes' => [['id' => 'bs', 'centre' => [0.6, 0.5]] + $spot]], 'live' => ['from' => 0, 'to' => 83], 'touches' => [['id' => 'm', 'kind' => 'match', 'light' => 1]]];
        yield 'under a part of what is measured by another area' => [['areas' => [...$area([$light(1)])['areas'], $beside]], ['areas' => [...$area([$light(2)])['areas'], $beside]], [35, 35, 64, 55]];
        $assets = ['assets' => ['sky' => ['sha256' => str_repeat('cd', 32), 'kind' => 'footage']]];
        $insert = ['id' => 'i', 'kind' => 'insert', 'file' => 'sky', 'ride' => 'area', 'side' => 'outside'];
        yield 'moved, with something shown outside that goes along' => [$area([$insert]) + $assets, $area([$insert], ['motion' => ['by' => 'none', 'keys' => [['frame' => 0, 'move' => [0.2, 0]]]]]) + $assets, [0, 0, 160, 90]];
        yield 'a file exchanged under its name' => [$area([['side' => 'inside'] + $insert]) + $assets, $area([['side' => 'inside'] + $insert]) + ['assets' => ['sky' => ['sha256' => str_repeat('ef', 32), 'kind' => 'footage']]], [35, 35, 55, 55]];
        yield 'moved' => [$area([$light(1)]), $area([$light(1)], ['motion' => ['by' => 'none', 'keys' => [['frame' => 0, 'move' => [0.2, 0]]]]]), [35, 35, 73, 55]];
    }

    /**
     * @param array<string, mixed> $one
     * @param array<string, mixed> $other
     * @param list<int>|null       $where
     */
    #[DataProvider('edits')]
    public function test_it_says_no_more_than_that(array $one, array $other, ?array $where): void
    {
        $changed = self::renderer(Documents::recipe($one))->changed(self::renderer(Documents::recipe($other)), FrameRendererTest::frame(), self::NUMBER);
        self::assertSame($where, $changed->isEmpty() ? null : [$changed->x, $changed->y, $changed->right(), $changed->bottom()]);
    }
}
