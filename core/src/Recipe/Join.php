<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** How a shape's matte b joins what stands before it, a. */
enum Join: string
{
    /** 1-(1-a)(1-b). */
    case Add = 'add';
    /** a(1-b). */
    case Cut = 'cut';
    /** ab. */
    case Keep = 'keep';

    /**
     * @param list<float> $a changed in place
     * @param list<float> $b
     */
    public function into(array &$a, array $b): void
    {
        foreach ($b as $i => $v) {
            $a[$i] = match ($this) {
                self::Add => $a[$i] + $v * (1.0 - $a[$i]),
                self::Cut => $a[$i] * (1.0 - $v),
                self::Keep => $a[$i] * $v,
            };
        }
    }
}
