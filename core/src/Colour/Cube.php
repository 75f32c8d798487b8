<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/**
 * A look-up table as .cube files hold it ("Cube LUT Specification", version 1.0, 2013): LUT_1D_SIZE or LUT_3D_SIZE,
 * DOMAIN_MIN and DOMAIN_MAX, then the table, red changing fastest.
 */
final readonly class Cube
{
    private const MOST_1D = 65536;
    /** Beyond it a table says nothing of light. */
    private const MOST_VALUE = 1e6;
    private const MOST_3D = 129;

    /**
     * @param int                         $size      entries along an axis
     * @param bool                        $isCube    three-dimensional
     * @param list<float>                 $table     R', G', B' of each entry
     * @param array{float, float, float}  $least     of its domain
     * @param array{float, float, float}  $most
     */
    private function __construct(
        public string $title,
        public int $size,
        public bool $isCube,
        public array $table,
        public array $least,
        public array $most,
    ) {}

    /** @throws InvalidCube with the line that is wrong */
    public static function parse(string $text): self
    {
        $title = '';
        $size = 0;
        $isCube = false;
        $least = [0.0, 0.0, 0.0];
        $most = [1.0, 1.0, 1.0];
        $table = [];
        foreach (preg_split('/\R/', $text) ?: [] as $i => $line) {
            $line = trim($line);
            $words = preg_split('/\s+/', $line) ?: [];
            if ($line === '' || $line[0] === '#') {
                continue;
            }
            switch ($words[0]) {
                case 'TITLE':
                    $title = trim(substr($line, 5), " \t\"");
                    break;
                case 'LUT_1D_SIZE':
                case 'LUT_3D_SIZE':
                    if ($size !== 0) {
                        throw InvalidCube::at($i + 1, 'one size only');
                    }
                    $isCube = $words[0] === 'LUT_3D_SIZE';
                    $largest = $isCube ? self::MOST_3D : self::MOST_1D;
                    $size = filter_var(
                        $words[1] ?? '',
                        FILTER_VALIDATE_INT,
                        ['options' => ['min_range' => 2, 'max_range' => $largest]],
                    ) ?: throw InvalidCube::at($i + 1, "a size from 2 to {$largest}");
                    break;
                case 'DOMAIN_MIN':
                    $least = self::numbers(array_slice($words, 1), $i + 1);
                    break;
                case 'DOMAIN_MAX':
                    $most = self::numbers(array_slice($words, 1), $i + 1);
                    break;
                case 'LUT_1D_INPUT_RANGE':
                case 'LUT_3D_INPUT_RANGE':
                    [$from, $to] = self::numbers([...array_slice($words, 1, 2), '0'], $i + 1);
                    $least = [$from, $from, $from];
                    $most = [$to, $to, $to];
                    break;
                default:
                    if ($size === 0) {
                        throw InvalidCube::at($i + 1, 'LUT_1D_SIZE or LUT_3D_SIZE before the table');
                    }
                    array_push($table, ...self::numbers($words, $i + 1));
            }
        }
        if ($size === 0) {
            throw InvalidCube::at(1, 'LUT_1D_SIZE or LUT_3D_SIZE');
        }
        $rows = $isCube ? $size ** 3 : $size;
        if (count($table) !== 3 * $rows) {
            throw InvalidCube::count($rows, intdiv(count($table), 3));
        }
        for ($k = 0; $k < 3; ++$k) {
            if ($most[$k] <= $least[$k]) {
                throw InvalidCube::domain();
            }
        }

        return new self($title, $size, $isCube, $table, $least, $most);
    }

    /**
     * A cube over 0..1.
     *
     * @param int         $size  entries along an axis
     * @param list<float> $table R', G', B' of each entry, red changing fastest
     */
    public static function of(string $title, int $size, array $table): self
    {
        if ($size < 2 || $size > self::MOST_3D || count($table) !== 3 * $size ** 3) {
            throw new \InvalidArgumentException("A cube of {$size} entries along an axis has " . 3 * $size ** 3 . ' numbers.');
        }

        return new self($title, $size, true, $table, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
    }

    /**
     * The file of it.
     *
     * @param list<string> $remarks lines for people, ahead of it
     */
    public function text(array $remarks = []): string
    {
        $lines = array_map(static fn(string $remark): string => '# ' . preg_replace('/\s+/', ' ', $remark), $remarks);
        $title = str_replace('"', "'", (string) preg_replace('/\s+/', ' ', $this->title));
        array_push($lines, "TITLE \"{$title}\"", ($this->isCube ? 'LUT_3D_SIZE ' : 'LUT_1D_SIZE ') . $this->size);
        $numbers = static fn(float ...$v): string => implode(' ', array_map(static fn(float $x): string => sprintf('%.7F', $x), $v));
        array_push($lines, 'DOMAIN_MIN ' . $numbers(...$this->least), 'DOMAIN_MAX ' . $numbers(...$this->most));
        foreach (array_chunk($this->table, 3) as $entry) {
            $lines[] = $numbers(...$entry);
        }

        return implode("\n", $lines) . "\n";
    }

    /**
     * @param list<string> $words
     *
     * @return array{float, float, float}
     */
    private static function numbers(array $words, int $line): array
    {
        if (count($words) !== 3) {
            throw InvalidCube::at($line, 'three numbers');
        }
        $numbers = [];
        foreach ($words as $word) {
            $number = filter_var($word, FILTER_VALIDATE_FLOAT);
            if ($number === false || abs($number) > self::MOST_VALUE) {
                throw InvalidCube::at($line, 'three numbers');
            }
            $numbers[] = $number;
        }

        return $numbers;
    }
}
