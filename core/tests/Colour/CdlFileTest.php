<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Colour;

use Cossel\Core\Colour\CdlFile;
use Cossel\Core\Colour\InvalidCdl;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CdlFileTest extends TestCase
{
    public function test_what_is_written_is_read_back_in_every_form(): void
    {
        foreach (['cc', 'ccc', 'cdl'] as $form) {
            $one = ['id' => 'gh010', 'slope' => [1.1, 1.0, 0.95], 'offset' => [0.0, -0.02, 0.01], 'power' => [1.0, 0.9, 1.2], 'saturation' => 0.85];
            $other = ['id' => 'gh010 2', 'slope' => [0.5, 0.5, 0.5], 'offset' => [0.0, 0.0, 0.1], 'power' => [1.0, 1.0, 1.0], 'saturation' => 1.0];
            self::assertSame($form === 'cc' ? [$one] : [$one, $other], CdlFile::read(CdlFile::write($form, [$one, $other])), $form);
        }
    }

    public function test_collections_and_older_and_plain_documents_are_read(): void
    {
        $found = CdlFile::read('<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.01"><ColorCorrection id="a"><SOPNode><Slope>2 1 1</Slope><Offset>0 0 0</Offset><Power>1 1 1</Power></SOPNode></ColorCorrection><ColorCorrection id="b"><SATNode><Saturation>0.5</Saturation></SATNode></ColorCorrection></ColorCorrectionCollection>');
        self::assertSame(['a', 'b'], array_column($found, 'id'));
        self::assertSame([2.0, 1.0, 1.0], $found[0]['slope']);
        self::assertSame([1.0, 0.5], array_column($found, 'saturation'));
        self::assertSame('c', CdlFile::read('<ColorCorrection id="c"/>')[0]['id']);
    }

    /** @return iterable<string, array{string, string}> */
    public static function broken(): iterable
    {
        yield 'nothing' => ['', 'not plain XML'];
        yield 'no XML' => ['slope 1 1 1', 'not plain XML'];
        yield 'entities' => ['<!DOCTYPE x [<!ENTITY e "1 1 1">]><ColorCorrection id="a"/>', 'not plain XML'];
        yield 'another document' => ['<svg/>', 'no ColorCorrection'];
        yield 'two numbers' => ['<ColorCorrection><SOPNode><Slope>1 1</Slope></SOPNode></ColorCorrection>', 'its slope is not 3 numbers'];
        yield 'a word' => ['<ColorCorrection><SatNode><Saturation>much</Saturation></SatNode></ColorCorrection>', 'its saturation is not 1 number'];
    }

    #[DataProvider('broken')]
    public function test_what_is_wrong_is_said(string $xml, string $says): void
    {
        $this->expectException(InvalidCdl::class);
        $this->expectExceptionMessage($says);
        CdlFile::read($xml);
    }
}
