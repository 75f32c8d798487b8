<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** How a shape's matte b joins what stands before it, a. */
enum Join: string
{
    /** 1-(1-a)(1-b). */
    case Add = 'add';
    /** a(1-b). */
    // no break
    case Cut = 'cut';
    /** ab. */
    // no break
    case Keep = 'keep';

    /**
     * @param list<float> $a changed in place
     * @param list<float> $b
     */
    public function into(array &$a, array $b): void
    {
        $n = count($a);
        switch ($this) {
            case self::Add:
                for ($i = 0; $i < $n; ++$i) {
                    $a[$i] += $b[$i] * (1.0 - $a[$i]);
                }
                break;
            case self::Cut:
                for ($i = 0; $i < $n; ++$i) {
                    $a[$i] *= 1.0 - $b[$i];
                }
                break;
            case self::Keep:
                for ($i = 0; $i < $n; ++$i) {
                    $a[$i] *= $b[$i];
                }
        }
    }
}
