<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use Cossel\Core\Colour\CdlFile;
use Cossel\Core\Colour\Cube;
use Cossel\Core\Colour\InvalidCdl;
use Cossel\Core\Colour\InvalidCube;
use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\EdlReader;
use Cossel\Core\Cut\EdlWriter;
use Cossel\Core\Cut\Event;
use Cossel\Core\Cut\OtioReader;
use Cossel\Core\Cut\OtioWriter;
use Cossel\Core\Cut\Rate;
use Cossel\Core\Cut\Timecode;
use Cossel\Core\Outline\SvgOutline;

/** Every text format that comes in: look-up tables, decision lists, SVG. */
final class TextFuzz implements Fuzz
{
    private const SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1280 720"><g transform="translate(10 20) rotate(5)"><path d="M10 10h50v40l-20-5c5 5 10 10 20 0s9 9 3 3q1 2 3 4t5 6a5 8 30 0 1 9 9z"/><rect x="5" y="5" width="50" height="20" rx="4"/><ellipse cx="90" cy="90" rx="20" ry="10" transform="scale(2) skewX(10)"/><polygon points="0,0 10,0 10,10"/></g></svg>';
    private const CDL = '<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.01"><ColorCorrection id="a"><SOPNode><Slope>1.1 1 0.9</Slope><Offset>0 0.01 -0.02</Offset><Power>1 1.2 1</Power></SOPNode><SatNode><Saturation>0.9</Saturation></SatNode></ColorCorrection></ColorCorrectionCollection>';

    public function name(): string
    {
        return 'texts';
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
        [$text, $read] = $dice->one([
            [self::SVG, static function (string $text): ?string {
                foreach (SvgOutline::read($text) as $path) {
                    foreach ($path as $p) {
                        if (!is_finite($p->x + $p->y + $p->inX + $p->inY + $p->outX + $p->outY)) {
                            return 'has a point nowhere';
                        }
                    }
                }

                return null;
            }],
            [self::CDL, static function (string $text): ?string {
                foreach (CdlFile::read($text) as $found) {
                    json_encode($found, JSON_THROW_ON_ERROR);
                }

                return null;
            }],
            [self::cube(), static function (string $text): ?string {
                $cube = Cube::parse($text);

                return max(array_map(abs(...), $cube->table)) <= 1e6 && count($cube->table) === 3 * ($cube->isCube ? $cube->size ** 3 : $cube->size) ? null : 'is not whole';
            }],
            ['01:00:59;28', static function (string $text): ?string {
                Timecode::parse($text, 30)->plus(100)->text();

                return null;
            }],
            [EdlWriter::write(self::cut()), static fn(string $text): ?string => self::written(EdlReader::read($text, Rate::near(29.97)))],
            [OtioWriter::json(self::cut()), static fn(string $text): ?string => self::written(OtioReader::read(json_decode($text, true, 64)))],
        ]);
        try {
            return $read(Mutation::ofText($text, $dice));
        } catch (InvalidCube|InvalidCdl|\DomainException) {
            return null;
        }
    }

    private static function cut(): Cut
    {
        return new Cut('Glasshouse', Rate::near(29.97), [new Event(1, 'gh010', '/media/a.mov', 'A001', 107900, 108000, 0, 107892), new Event(2, 'gh020', null, null, 10, 60, 120)], 107892, true);
    }

    private static function written(Cut $cut): ?string
    {
        OtioWriter::json($cut);

        return $cut->events === [] ? 'has no event' : null;
    }

    private static function cube(): string
    {
        $text = "TITLE \"a look\"\nLUT_3D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n";
        for ($i = 0; $i < 27; ++$i) {
            $text .= sprintf("%.3f %.3f %.3f\n", $i % 3 / 2, intdiv($i, 3) % 3 / 2, intdiv($i, 9) / 2);
        }

        return $text;
    }
}
