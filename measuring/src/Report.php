<?php

declare(strict_types=1);

namespace Cossel\Measuring;

/** Figures that the commands write into docs/reliability.md themselves. */
final class Report
{
    /**
     * @param list<string>                 $heads
     * @param list<list<string|int|float>> $rows
     */
    public static function write(string $name, array $heads, array $rows): void
    {
        $file = base_path('docs/reliability.md');
        $line = static fn(array $cells): string => '| ' . implode(' | ', $cells) . " |\n";
        $table = $line($heads) . $line(array_fill(0, count($heads), '---')) . implode('', array_map($line, $rows));
        $text = (string) file_get_contents($file);
        $new = preg_replace("/(<!-- {$name}, written by the command -->\n).*?(<!-- end -->)/s", "$1\n" . date('Y-m-d') . "\n\n{$table}\n$2", $text, 1, $count);
        if ($count !== 1) {
            throw new \RuntimeException("docs/reliability.md has no place for {$name}.");
        }
        file_put_contents($file, $new);
    }
}
