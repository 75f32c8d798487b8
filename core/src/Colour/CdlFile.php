<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/**
 * Files of the ASC Color Decision List: .cc (one ColorCorrection), .ccc (a collection) and .cdl (decisions), XML in the
 * namespace urn:ASC:CDL:v1.2 or v1.01. Values: slope, offset and power of red, green, blue, and saturation.
 */
final class CdlFile
{
    private const SPACE = 'urn:ASC:CDL:v1.2';
    private const NEUTRAL = ['slope' => [1.0, 1.0, 1.0], 'offset' => [0.0, 0.0, 0.0], 'power' => [1.0, 1.0, 1.0]];

    /**
     * @return non-empty-list<array{id: string, slope: list<float>, offset: list<float>, power: list<float>, saturation: float}>
     *
     * @throws InvalidCdl
     */
    public static function read(string $xml): array
    {
        $document = new \DOMDocument();
        $before = libxml_use_internal_errors(true);
        try {
            if (stripos($xml, '<!DOCTYPE') !== false || $xml === '' || !$document->loadXML($xml, LIBXML_NONET)) {
                throw InvalidCdl::because('it is not plain XML');
            }
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($before);
        }
        $found = [];
        foreach (self::named($document, 'ColorCorrection') as $node) {
            $values = ['id' => $node->getAttribute('id')] + self::NEUTRAL + ['saturation' => 1.0];
            foreach (self::NEUTRAL as $name => $_) {
                foreach (self::named($node, ucfirst($name)) as $triple) {
                    $values[$name] = self::numbers($triple->textContent, 3, $name);
                }
            }
            foreach (self::named($node, 'Saturation') as $saturation) {
                [$values['saturation']] = self::numbers($saturation->textContent, 1, 'saturation');
            }
            $found[] = $values;
        }

        return $found === [] ? throw InvalidCdl::because('there is no ColorCorrection in it') : $found;
    }

    /**
     * A .ccc or .cdl file of corrections in their order, or a .cc file, which holds one.
     *
     * @param non-empty-list<array{id: string, slope: list<float>, offset: list<float>, power: list<float>, saturation: float}> $corrections
     */
    public static function write(string $form, array $corrections): string
    {
        $document = new \DOMDocument('1.0', 'UTF-8');
        $document->formatOutput = true;
        $add = static function (\DOMNode $to, string $name, ?string $text = null) use ($document): \DOMElement {
            $node = $document->createElementNS(self::SPACE, $name);
            if ($text !== null) {
                $node->appendChild($document->createTextNode($text));
            }
            $to->appendChild($node);

            return $node;
        };
        $words = static fn(array $v): string => implode(
            ' ',
            array_map(static fn(float $x): string => rtrim(rtrim(sprintf('%.6F', $x), '0'), '.'), $v),
        );
        $root = match ($form) {
            'ccc' => $add($document, 'ColorCorrectionCollection'),
            'cdl' => $add($document, 'ColorDecisionList'),
            default => $document,
        };
        foreach ($form === 'cc' ? [$corrections[0]] : $corrections as $each) {
            $correction = $add($form === 'cdl' ? $add($root, 'ColorDecision') : $root, 'ColorCorrection');
            $correction->setAttribute('id', $each['id']);
            $sop = $add($correction, 'SOPNode');
            foreach (array_keys(self::NEUTRAL) as $name) {
                $add($sop, ucfirst($name), $words($each[$name]));
            }
            $add($add($correction, 'SatNode'), 'Saturation', $words([$each['saturation']]));
        }

        return (string) $document->saveXML();
    }

    /** @return iterable<\DOMElement> */
    private static function named(\DOMDocument|\DOMElement $in, string $name): iterable
    {
        foreach ($in->getElementsByTagNameNS('*', $name) as $node) {
            yield $node;
        }
    }

    /** @return non-empty-list<float> */
    private static function numbers(string $text, int $count, string $what): array
    {
        $words = preg_split('/\s+/', trim($text)) ?: [];
        $numbers = array_map(static fn(string $word): float|false => filter_var($word, FILTER_VALIDATE_FLOAT), $words);
        if (count($numbers) !== $count || in_array(false, $numbers, true) || array_filter($numbers, is_finite(...)) !== $numbers) {
            throw InvalidCdl::because("its {$what} is not {$count} " . ($count === 1 ? 'number' : 'numbers'));
        }

        return $numbers;
    }
}
