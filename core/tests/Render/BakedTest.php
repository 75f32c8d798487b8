<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Render;

use Cossel\Core\Colour\CdlFile;
use Cossel\Core\Colour\Cube;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Render\BakedCube;
use Cossel\Core\Render\BaseCdl;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Tests\Documents;
use PHPUnit\Framework\TestCase;

/** Base and finish as a table and as decision lists, against what the renderer makes of the same colours. */
final class BakedTest extends TestCase
{
    private const TOUCHES = [
        ['id' => 'light', 'kind' => 'exposure', 'stops' => 0.4],
        ['id' => 'levels', 'kind' => 'tone', 'lift' => 0.03, 'gamma' => 1.2, 'gain' => 0.95],
        ['id' => 'list', 'kind' => 'cdl', 'slopeRed' => 1.1, 'offsetGreen' => -0.02, 'powerBlue' => 1.2, 'saturation' => 0.9],
        ['id' => 'less', 'kind' => 'colour', 'saturation' => 0.7, 'amount' => 0.5],
    ];

    /** @param array<string, mixed> $changes */
    private static function recipe(array $changes): Recipe
    {
        return Documents::read($changes);
    }

    /** Every colour of a grid of eleven steps. */
    private static function frame(int $first = 2000, float $step = 6150): Frame
    {
        $planes = [[], [], []];
        for ($i = 0; $i < 11 ** 3; ++$i) {
            foreach ([intdiv($i, 11) % 11, intdiv($i, 121), $i % 11] as $plane => $steps) {
                $planes[$plane][] = (int) round($first + $step * $steps);
            }
        }

        return new Frame(new FrameFormat(121, 11, Layout::Rgb, fullRange: true), pack('v*', ...array_merge(...$planes)));
    }

    /** @return list<array{list<float>, list<float>}> colours before, and as the renderer makes them */
    private static function rendered(Recipe $recipe, ?Frame $frame = null): array
    {
        $frame ??= self::frame();
        $whole = $frame->format->rect();
        $before = $frame->window($whole);
        $pairs = [];
        foreach ((new FrameRenderer($recipe, new Motions($recipe, [])))->bands($frame, 0, $whole) as $band) {
            foreach ($band->r as $i => $red) {
                $k = ($band->rect->y - $whole->y) * $whole->width + $i;
                $pairs[] = [[$before->r[$k], $before->g[$k], $before->b[$k]], [$red, $band->g[$i], $band->b[$i]]];
            }
        }

        return $pairs;
    }

    /**
     * A table read between its entries, plainly.
     *
     * @param list<float> $colour
     *
     * @return list<float>
     */
    private static function read(Cube $cube, array $colour): array
    {
        $out = [0.0, 0.0, 0.0];
        $at = array_map(static fn(float $v): float => $v * ($cube->size - 1), $colour);
        for ($corner = 0; $corner < 8; ++$corner) {
            $weight = 1.0;
            $entry = 0;
            foreach ([0, 1, 2] as $axis) {
                $low = min($cube->size - 2, (int) $at[$axis]);
                $bit = $corner >> $axis & 1;
                $weight *= $bit === 1 ? $at[$axis] - $low : 1 - ($at[$axis] - $low);
                $entry += ($low + $bit) * $cube->size ** $axis;
            }
            foreach ([0, 1, 2] as $c) {
                $out[$c] += $weight * $cube->table[3 * $entry + $c];
            }
        }

        return $out;
    }

    public function test_a_table_read_by_somebody_else_gives_the_colours_that_are_rendered(): void
    {
        $recipe = self::recipe(['base' => self::TOUCHES, 'finish' => [['id' => 'soft', 'kind' => 'exposure', 'stops' => -0.2]]]);
        $baked = BakedCube::of($recipe, new FrameFormat(64, 48), 0, 65, 'gh010');
        self::assertSame([], $baked->left);
        $cube = Cube::parse($baked->cube->text(['for people']));
        self::assertSame(['gh010', 65, true], [$cube->title, $cube->size, $cube->isCube]);
        foreach (self::rendered($recipe) as [$before, $after]) {
            foreach (self::read($cube, $before) as $c => $v) {
                self::assertEqualsWithDelta($after[$c], $v, 1 / 1023, json_encode($before));
            }
        }
    }

    public function test_on_its_entries_a_table_is_exact_however_steep_the_treatment_and_beyond_white_too(): void
    {
        $recipe = self::recipe(['base' => [['id' => 'mood', 'kind' => 'balance', 'midsRed' => 0.05, 'shadowsYellow' => -0.05], ['id' => 'warm', 'kind' => 'colour', 'temperature' => 60], ['id' => 'hard', 'kind' => 'tone', 'contrast' => 2.5, 'blacks' => 1]]]);
        $cube = BakedCube::of($recipe, new FrameFormat(64, 48), 0, 11, 'x')->cube;
        foreach (self::rendered($recipe, self::frame(0, 6553.5)) as [$before, $after]) {
            foreach (self::read($cube, $before) as $c => $v) {
                self::assertEqualsWithDelta($after[$c], $v, 1 / 1023, json_encode($before));
            }
        }
        self::assertGreaterThan(1.1, max($cube->table));
    }

    public function test_what_no_table_holds_is_named(): void
    {
        $recipe = self::recipe([
            'base' => [['id' => 'b', 'kind' => 'blur', 'radius' => 0.01], ['id' => 'e', 'kind' => 'exposure', 'stops' => ['value' => 0, 'keys' => [['frame' => 0, 'value' => 0], ['frame' => 40, 'value' => 1]]]]],
            'areas' => [Documents::area()],
        ]);
        $baked = BakedCube::of($recipe, new FrameFormat(64, 48), 40, 5, 'x');
        self::assertSame(['blur looks at other pixels and is not in this table', 'exposure changes over time and is as on frame 40', 'what areas do is not in this table'], $baked->left);
        self::assertEqualsWithDelta(0.5 * 2 ** (1 / 2.4), $baked->cube->table[3 * 2], 1e-9);
        $this->expectException(\InvalidArgumentException::class);
        Cube::of('x', 3, [0.0]);
    }

    public function test_decision_lists_computed_by_the_published_formula_give_the_colours_that_are_rendered(): void
    {
        $recipe = self::recipe(['base' => self::TOUCHES]);
        $said = BaseCdl::of($recipe, Transfer::Bt1886, 0);
        self::assertSame([], $said['left']);
        self::assertNotEmpty($said['corrections']);
        $read = CdlFile::read(CdlFile::write('ccc', $said['corrections']));
        self::assertSame(['light', 'levels', 'list', 'less'], array_column($read, 'id'));
        foreach (self::rendered($recipe) as [$before, $after]) {
            $v = $before;
            foreach ($read as $correction) {
                foreach ([0, 1, 2] as $c) {
                    $v[$c] = max(0.0, $v[$c] * $correction['slope'][$c] + $correction['offset'][$c]) ** $correction['power'][$c];
                }
                $luma = 0.2126 * $v[0] + 0.7152 * $v[1] + 0.0722 * $v[2];
                $v = array_map(static fn(float $x): float => $luma + $correction['saturation'] * ($x - $luma), $v);
            }
            foreach ([0, 1, 2] as $c) {
                // What falls below 0 the published form clips; here it is kept.
                $after[$c] < 0.002 || self::assertEqualsWithDelta($after[$c], $v[$c], 1 / 1023, json_encode($before));
            }
        }
    }

    public function test_what_is_no_decision_list_is_named(): void
    {
        $recipe = self::recipe(['base' => [['id' => 'a', 'kind' => 'exposure', 'stops' => 1], ['id' => 'b', 'kind' => 'colour', 'temperature' => 20], ['id' => 'c', 'kind' => 'tone', 'contrast' => 1.2], ['id' => 'd', 'kind' => 'tone', 'gain' => 1.2, 'amount' => 0.5], ['id' => 'e', 'kind' => 'exposure', 'stops' => 1, 'on' => false]]]);
        // Exposure is a slope on the codes of a BT.1886 display alone.
        self::assertSame(['a'], array_column(BaseCdl::of($recipe, Transfer::Bt1886, 0)['corrections'], 'id'));
        self::assertSame(['colour cannot be said as a decision list', 'tone cannot be said as a decision list', 'tone cannot be said as a decision list'], BaseCdl::of($recipe, Transfer::Bt1886, 0)['left']);
        self::assertSame([], BaseCdl::of($recipe, Transfer::Srgb, 0)['corrections']);
    }
}
