<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FrameCache;
use Cossel\Core\Colour\CieLab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Render\FrameRenderer;

/** How well the finished demo shots are treated, against the label pictures and the ground truth they were drawn with. */
final class TreatReport
{
    /** Sigma over full width at half maximum. */
    private const SIGMA = 0.42466;
    /** Width of the face of gh040_skin over the distance of its pupils. */
    private const FACE = 1.72;

    /** @var array<string, array{DemoShot, list<array<string, mixed>>, LabelPictures}> */
    private array $shots = [];

    public function __construct(private readonly DemoShots $demo, private readonly FrameCache $frames) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        yield from $this->even();
        yield from $this->whiten();
        yield from $this->iris();
        yield from $this->conceal();
        yield from $this->grain();
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function even(): \Generator
    {
        $section = 'even on gh040_skin, tone at full, inside the truth’s skin';
        $shot = 'gh040_skin';
        $only = static fn(array $document): array => self::only($document, 'face', [['id' => 'e', 'kind' => 'even', 'tone' => 1, 'width' => self::touch($document, 'face', 'even')['width'] ?? 0]]);
        $sums = ['chroma' => [], 'lightness' => [], 'modelling' => [], 'pores' => []];
        foreach (range(0, 83, 12) as $number) {
            [$before, $after, $labels] = $this->seen($shot, $number, $only);
            $area = $this->matte($shot, 'face', $number, $only);
            $skin = $counted = [];
            foreach ($labels as $i => $label) {
                $skin[] = $label === LabelPictures::SKIN ? 1.0 : 0.0;
                $counted[] = $skin[$i] > 0.0 && $area->v[$i] > 0.99;
            }
            $truth = $this->shots[$shot][1][$number];
            $face = self::FACE * abs($truth['eye_l']['pupil']['x'] - $truth['eye_r']['pupil']['x']) * self::SIGMA;
            [$was, $is] = array_map(static fn(Planes $p): array => self::bands($p, $skin, $face), [$before, $after]);
            $ratio = static fn(string $band): float => self::variance($is[$band], $counted) / self::variance($was[$band], $counted);
            $chroma = static fn(array $bands): float => self::variance($bands['a middle'], $counted) + self::variance($bands['b middle'], $counted);
            $sums['chroma'][] = 1 - $chroma($is) / $chroma($was);
            $sums['lightness'][] = 1 - $ratio('l middle');
            $sums['modelling'][] = sqrt($ratio('l coarse'));
            $sums['pores'][] = $ratio('l fine');
        }
        yield [$section, 'variance between .02 and .10 face widths, chroma: falls by, least of seven frames', sprintf('%.0f %%', 100 * min($sums['chroma'])), '60 %'];
        yield [$section, 'the same, lightness', sprintf('%.0f %%', 100 * min($sums['lightness'])), '40 %'];
        yield [$section, 'modelling, coarser than that: keeps', sprintf('%.1f to %.1f %%', 100 * min($sums['modelling']), 100 * max($sums['modelling'])), '95 to 105 %'];
        yield [$section, 'energy finer than .008 face widths (pores): keeps', sprintf('%.0f %%', 100 * min($sums['pores'])), '85 %'];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function whiten(): \Generator
    {
        $section = 'teeth of gh020_laugh, as delivered';
        $shot = 'gh020_laugh';
        $only = static fn(array $document): array => self::only($document, 'teeth');
        $falls = [];
        $others = ['lips' => [], 'gums and tongue' => [], 'skin' => []];
        $ceiling = 0.0;
        $over = 0;
        foreach (range(0, 83, 6) as $number) {
            [$before, $after, $labels] = $this->seen($shot, $number, $only);
            [$teeth, $whites] = [array_keys($labels, LabelPictures::TEETH, true), array_keys($labels, LabelPictures::SCLERA, true)];
            if (count($teeth) < 400) {
                continue;
            }
            $yellow = static fn(Planes $p): float => self::mean($p, $teeth)[2] - self::mean($p, $whites)[2];
            $falls[] = 1 - $yellow($after) / $yellow($before);
            foreach (['lips' => LabelPictures::LIPS, 'gums and tongue' => LabelPictures::CAVITY, 'skin' => LabelPictures::SKIN] as $name => $label) {
                $others[$name][] = self::difference($before, $after, array_keys($labels, $label, true));
            }
            $ceiling = $this->recipe($shot, $only)->area('teeth')->touches[0]->values($number)['ceiling'];
            $was = LabPlanes::of($before, $before->rect, Transfer::Bt1886);
            $lab = LabPlanes::of($after, $after->rect, Transfer::Bt1886);
            foreach ($teeth as $i) {
                $over += $lab->l[$i] > max($ceiling, $was->l[$i]) + 1e-4 ? 1 : 0;
            }
        }
        yield [$section, 'mean b* above that of the whites of the eyes: falls by, least of ' . count($falls) . ' frames', sprintf('%.0f %%', 100 * min($falls)), '60 %'];
        foreach ($others as $name => $differences) {
            yield [$section, "mean CIEDE2000 of {$name}, worst frame", sprintf('%.2f', max($differences)), '1.0'];
        }
        yield [$section, sprintf('pixels of teeth lifted over the ceiling (L %.2f)', $ceiling), (string) $over, '0'];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function iris(): \Generator
    {
        $section = 'irises of gh030_gaze, as delivered';
        $shot = 'gh030_gaze';
        $asked = self::touch($this->document($shot), 'irisL', 'iris')['hue'];
        $off = $alike = $lids = $whites = [];
        $closed = 0;
        foreach (range(0, 83, 3) as $number) {
            [$before, $after, $labels] = $this->seen($shot, $number, static fn(array $document): array => [...$document, 'base' => [], 'finish' => []]);
            $truth = $this->shots[$shot][1][$number];
            if (max($truth['eye_l']['open'], $truth['eye_r']['open']) < 0.05) {
                $closed += $before->r !== $after->r || $before->g !== $after->g || $before->b !== $after->b ? 1 : 0;
                continue;
            }
            foreach (['eye_l' => LabelPictures::LEFT_IRIS, 'eye_r' => LabelPictures::RIGHT_IRIS] as $eye => $label) {
                $iris = array_keys($labels, $label, true);
                if ($truth[$eye]['open'] < 0.9 || count($iris) < 1500) {
                    continue;
                }
                $lab = LabPlanes::of($after, $after->rect, Transfer::Bt1886);
                $a = array_sum(array_map(static fn(int $i): float => $lab->a[$i], $iris));
                $b = array_sum(array_map(static fn(int $i): float => $lab->b[$i], $iris));
                $d = rad2deg(atan2($b, $a)) - $asked;
                $off[] = abs($d - 360 * round($d / 360));
                $alike[] = self::correlation(self::light($before, $iris), self::light($after, $iris));
            }
            $near = self::near($labels, $truth);
            $lids[] = self::difference($before, $after, array_values(array_filter($near, static fn(int $i): bool => $labels[$i] === LabelPictures::SKIN)));
            $whites[] = self::difference($before, $after, array_keys($labels, LabelPictures::SCLERA, true));
        }
        yield [$section, 'hue off the one asked, open eyes, worst', sprintf('%.1f°', max($off)), '12°'];
        yield [$section, 'correlation of luminance with the original, worst', sprintf('%.3f', min($alike)), '0.9'];
        yield [$section, 'mean CIEDE2000 of the lids’ skin round the iris, worst frame', sprintf('%.2f', max($lids)), '1.0'];
        yield [$section, 'mean CIEDE2000 of the whites, worst frame', sprintf('%.2f', max($whites)), '1.0'];
        yield [$section, 'frames with closed lids that changed', (string) $closed, '0'];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function conceal(): \Generator
    {
        $section = 'spots of gh040_skin, covering alone';
        $shot = 'gh040_skin';
        $only = static fn(array $document): array => [...$document, 'finish' => [], 'areas' => array_map(static fn(array $a): array => str_starts_with($a['id'], 'spot') ? $a : [...$a, 'touches' => []], $document['areas'])];
        $off = ['before' => [], 'after' => []];
        $texture = $over = $calm = [];
        foreach (range(0, 83, 2) as $number) {
            [$before, $after] = $this->seen($shot, $number, $only);
            foreach ($this->shots[$shot][1][$number]['blemishes'] as $k => $spot) {
                if (!$spot['vis']) {
                    continue;
                }
                [$inside, $ring] = [self::disc($spot, 0, 1), self::disc($spot, 1.8, 2.8)];
                foreach (['before' => $before, 'after' => $after] as $when => $planes) {
                    [$l, $spread] = self::levels($planes, $ring);
                    [$m] = self::levels($planes, $inside);
                    $off[$when][$k][] = max(array_map(static fn(int $c): float => abs($m[$c] - $l[$c]) / $spread[$c], [0, 1, 2]));
                }
                $texture[$k][] = self::grainOf($after, $inside) / self::grainOf($after, $ring);
                $over[$k][] = self::levels($after, $inside)[0][0] - self::levels($after, $ring)[0][0];
                // Skin beside it, seen the same way: as far away as their rings do not touch the spot.
                foreach ([[3.9, 0], [-3.9, 0], [0, 3.9], [0, -3.9]] as $n => [$dx, $dy]) {
                    $beside = [...$spot, 'x' => $spot['x'] + $dx * $spot['r'], 'y' => $spot['y'] + $dy * $spot['r']];
                    $calm[$k][$n][] = self::levels($before, self::disc($beside, 0, 1))[0][0] - self::levels($before, self::disc($beside, 1.8, 2.8))[0][0];
                }
            }
        }
        foreach ($off['after'] as $k => $list) {
            $name = 'spot ' . ($k + 1) . sprintf(' (radius %.0f px)', $this->shots[$shot][1][20]['blemishes'][$k]['r']);
            yield [$section, "{$name}: off the ring, in its own spreads, worst channel, mean and worst frame", sprintf('%.2f, %.2f (before %.2f)', array_sum($list) / count($list), max($list), array_sum($off['before'][$k]) / count($off['before'][$k])), '1.0'];
            yield [$section, "{$name}: its grain over that of the ring, mean", sprintf('%.2f', array_sum($texture[$k]) / count($texture[$k])), '0.85 to 1.15'];
            yield [$section, "{$name}: change from frame to frame of its L against its ring, over that of four places beside it", sprintf('%.2f', self::flicker($over[$k]) * 4 / array_sum(array_map(self::flicker(...), $calm[$k]))), '1.0'];
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function grain(): \Generator
    {
        $shot = 'gh040_skin';
        $section = 'grain of gh040_skin, as delivered';
        $ratios = ['with' => [], 'without' => []];
        foreach (range(0, 83, 12) as $number) {
            foreach (['with' => static fn(array $d): array => $d, 'without' => static fn(array $d): array => self::only($d, 'face', array_values(array_filter(self::area($d, 'face')['touches'], static fn(array $t): bool => $t['kind'] !== 'grain')))] as $name => $change) {
                [$before, $after, $labels] = $this->seen($shot, $number, $change);
                $area = $this->matte($shot, 'face', $number, $change);
                $skin = array_values(array_filter(array_keys($labels, LabelPictures::SKIN, true), static fn(int $i): bool => $area->v[$i] > 0.95));
                $ratios[$name][] = self::grainOf($after, $skin) / self::grainOf($before, $skin);
            }
        }
        yield [$section, 'grain of the treated skin over that of the same skin untreated', sprintf('%.2f to %.2f', min($ratios['with']), max($ratios['with'])), '0.85 to 1.15'];
        yield [$section, 'the same without the grain touch', sprintf('%.2f to %.2f', min($ratios['without']), max($ratios['without'])), ''];
    }

    /**
     * Robust spread of luma less its Gaussian of 1.2 pixels.
     *
     * @param list<int> $pixels
     */
    private static function grainOf(Planes $planes, array $pixels): float
    {
        $rect = self::round($pixels, $planes->rect);
        $luma = Luma::of($planes, $rect);
        $counted = array_fill(0, $rect->count(), 0.0);
        foreach ($pixels as $i) {
            $counted[(intdiv($i, $planes->rect->width) - $rect->y) * $rect->width + $i % $planes->rect->width - $rect->x] = 1.0;
        }
        $grain = $luma->v;
        foreach (Gaussian::blur($luma, 1.2)->v as $i => $soft) {
            $grain[$i] -= $soft;
        }

        return Robust::of($grain, $counted)[1];
    }

    /**
     * The rectangle round some pixels of a picture, with room for the Gaussian.
     *
     * @param list<int> $pixels
     */
    private static function round(array $pixels, Rect $whole): Rect
    {
        $x = array_map(static fn(int $i): int => $i % $whole->width, $pixels);
        $y = array_map(static fn(int $i): int => intdiv($i, $whole->width), $pixels);

        return Rect::edges(min($x) - 6, min($y) - 6, max($x) + 7, max($y) + 7)->intersect($whole);
    }

    /**
     * Untreated and treated picture of a frame, and its labels.
     *
     * @param callable(array<string, mixed>): array<string, mixed> $change of the demo recipe
     *
     * @return array{Planes, Planes, list<int>}
     */
    private function seen(string $shot, int $number, callable $change): array
    {
        $recipe = $this->recipe($shot, $change);
        [$demo, , $labels] = $this->shots[$shot];
        $frame = $this->frames->frame($demo->footage, $number, $demo->footage->info->height);
        $all = $frame->format->rect();
        $treated = new Frame($frame->format, (new FrameRenderer($recipe, $demo->motions($recipe)))->frame($frame, $number));

        return [$frame->window($all), $treated->window($all), $labels->of($number)];
    }

    /** @param callable(array<string, mixed>): array<string, mixed> $change */
    private function matte(string $shot, string $area, int $number, callable $change): Grey
    {
        $recipe = $this->recipe($shot, $change);
        [$demo] = $this->shots[$shot];
        $frame = $this->frames->frame($demo->footage, $number, $demo->footage->info->height);

        return (new FrameRenderer($recipe, $demo->motions($recipe)))->matte($frame, $recipe->area($area), $number, $frame->format->rect());
    }

    /** @param callable(array<string, mixed>): array<string, mixed> $change */
    private function recipe(string $shot, callable $change): Recipe
    {
        $this->shots[$shot] ??= [
            $this->demo->named($shot),
            json_decode((string) file_get_contents(base_path("demo/truth/{$shot}.truth.json")), true)['frame'],
            new LabelPictures(base_path("demo/truth/labels/{$shot}.zip")),
        ];

        return $this->shots[$shot][0]->recipe($change);
    }

    /** @return array<string, mixed> */
    private function document(string $shot): array
    {
        return $this->demo->named($shot)->document;
    }

    /**
     * A recipe in which one area alone does something.
     *
     * @param array<string, mixed>            $document
     * @param list<array<string, mixed>>|null $touches  instead of its own
     *
     * @return array<string, mixed>
     */
    private static function only(array $document, string $area, ?array $touches = null): array
    {
        foreach ($document['areas'] as &$each) {
            $each['touches'] = $each['id'] === $area ? ($touches ?? $each['touches']) : [];
        }

        return [...$document, 'base' => [], 'finish' => []];
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<string, mixed>
     */
    private static function area(array $document, string $area): array
    {
        return $document['areas'][array_search($area, array_column($document['areas'], 'id'), true)];
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<string, mixed>
     */
    private static function touch(array $document, string $area, string $kind): array
    {
        $touches = self::area($document, $area)['touches'];

        return $touches[array_search($kind, array_column($touches, 'kind'), true)];
    }

    /**
     * Bands of Oklab, looking at skin only: fine over G(.008), middle between G(.02) and G(.1), coarse under G(.1).
     *
     * @param list<float> $skin
     *
     * @return array<string, list<float>>
     */
    private static function bands(Planes $planes, array $skin, float $face): array
    {
        $lab = LabPlanes::of($planes, $planes->rect, Transfer::Bt1886);
        $blur = static fn(array $v, float $size): array => Normalised::over($skin, $planes->rect->width, $planes->rect->height, $size * $face)->blur($v);
        $minus = static fn(array $v, array $w): array => array_map(static fn(float $x, float $y): float => $x - $y, $v, $w);
        $bands = [];
        foreach (['l', 'a', 'b'] as $channel) {
            $coarse = $blur($lab->{$channel}, 0.1);
            $bands["{$channel} middle"] = $minus($blur($lab->{$channel}, 0.02), $coarse);
            if ($channel === 'l') {
                $bands['l coarse'] = $coarse;
                $bands['l fine'] = $minus($lab->l, $blur($lab->l, 0.008));
            }
        }

        return $bands;
    }

    /**
     * @param list<float> $v
     * @param list<bool>  $counted
     */
    private static function variance(array $v, array $counted): float
    {
        $n = $sum = $square = 0.0;
        foreach ($counted as $i => $yes) {
            if ($yes) {
                ++$n;
                $sum += $v[$i];
                $square += $v[$i] * $v[$i];
            }
        }

        return $square / $n - ($sum / $n) ** 2;
    }

    /**
     * @param list<int> $pixels
     *
     * @return array{float, float, float} mean L*, a*, b*
     */
    private static function mean(Planes $planes, array $pixels): array
    {
        $sums = [0.0, 0.0, 0.0];
        foreach ($pixels as $i) {
            foreach (self::cie($planes, $i) as $c => $v) {
                $sums[$c] += $v / count($pixels);
            }
        }

        return $sums;
    }

    /**
     * @param list<int> $pixels
     */
    private static function difference(Planes $before, Planes $after, array $pixels): float
    {
        $sum = 0.0;
        foreach ($pixels as $i) {
            if ($before->r[$i] !== $after->r[$i] || $before->g[$i] !== $after->g[$i] || $before->b[$i] !== $after->b[$i]) {
                $sum += CieLab::difference(self::cie($before, $i), self::cie($after, $i));
            }
        }

        return $sum / max(1, count($pixels));
    }

    /** @return array{float, float, float} */
    private static function cie(Planes $planes, int $i): array
    {
        $transfer = Transfer::Bt1886;

        return CieLab::fromLinear($transfer->linear($planes->r[$i]), $transfer->linear($planes->g[$i]), $transfer->linear($planes->b[$i]));
    }

    /**
     * @param list<int> $pixels
     *
     * @return list<float> linear luminance
     */
    private static function light(Planes $planes, array $pixels): array
    {
        return array_map(static fn(int $i): float => 0.2126 * Transfer::Bt1886->linear($planes->r[$i]) + 0.7152 * Transfer::Bt1886->linear($planes->g[$i]) + 0.0722 * Transfer::Bt1886->linear($planes->b[$i]), $pixels);
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     */
    private static function correlation(array $x, array $y): float
    {
        $n = count($x);
        [$mx, $my] = [array_sum($x) / $n, array_sum($y) / $n];
        $xy = $xx = $yy = 0.0;
        foreach ($x as $i => $v) {
            $xy += ($v - $mx) * ($y[$i] - $my);
            $xx += ($v - $mx) ** 2;
            $yy += ($y[$i] - $my) ** 2;
        }

        return $xy / sqrt($xx * $yy);
    }

    /**
     * Pixels within one and a half radii of the irises.
     *
     * @param list<int>            $labels
     * @param array<string, mixed> $truth
     *
     * @return list<int>
     */
    private static function near(array $labels, array $truth): array
    {
        $near = [];
        foreach (['eye_l', 'eye_r'] as $eye) {
            array_push($near, ...self::disc([...$truth[$eye]['pupil'], 'r' => $truth[$eye]['iris_r']], 0, 1.5));
        }

        return array_values(array_filter($near, static fn(int $i): bool => isset($labels[$i])));
    }

    /**
     * Pixels of a ring, in a picture of 1280 by 720.
     *
     * @param array<string, mixed> $spot
     *
     * @return list<int>
     */
    private static function disc(array $spot, float $from, float $to): array
    {
        $pixels = [];
        $reach = (int) ceil($to * $spot['r']) + 1;
        $box = Rect::of((int) $spot['x'] - $reach, (int) $spot['y'] - $reach, 2 * $reach + 1, 2 * $reach + 1)->intersect(Rect::of(0, 0, 1280, 720));
        for ($y = $box->y; $y < $box->bottom(); ++$y) {
            for ($x = $box->x; $x < $box->right(); ++$x) {
                $d = hypot($x + 0.5 - $spot['x'], $y + 0.5 - $spot['y']) / $spot['r'];
                if ($d >= $from && $d <= $to) {
                    $pixels[] = $y * 1280 + $x;
                }
            }
        }

        return $pixels;
    }

    /**
     * @param list<int> $pixels
     *
     * @return array{list<float>, list<float>} mean and spread of L, a, b
     */
    private static function levels(Planes $planes, array $pixels): array
    {
        $values = [[], [], []];
        foreach ($pixels as $i) {
            foreach (self::cie($planes, $i) as $c => $v) {
                $values[$c][] = $v;
            }
        }
        $means = array_map(static fn(array $v): float => array_sum($v) / count($v), $values);

        return [$means, array_map(static fn(array $v, float $m): float => sqrt(array_sum(array_map(static fn(float $x): float => ($x - $m) ** 2, $v)) / count($v)), $values, $means)];
    }

    /** @param list<float> $v */
    private static function flicker(array $v): float
    {
        $sum = 0.0;
        for ($i = 1; $i < count($v); ++$i) {
            $sum += ($v[$i] - $v[$i - 1]) ** 2;
        }

        return sqrt($sum / (count($v) - 1));
    }
}
