<?php

declare(strict_types=1);

namespace App\Deliveries;

/** What a file is treated with and what is written of it. */
final readonly class ProcessOrder
{
    /**
     * @param string               $recipe   path
     * @param Format|null          $as       by the ending of the file that is written when left out
     * @param string|null          $mattes   folder for the areas' mattes
     * @param string|null          $tracks   file to write the tracks to
     * @param string|null          $given    file with tracks to use instead of following
     * @param string|null          $points   file with places whose ways are written into the tracks
     * @param string|null          $assets   folder with the files that the recipe names
     * @param array{int, int}|null $span     frames; the recipe's when left out
     */
    public function __construct(
        public string $recipe,
        public ?Format $as = null,
        public ?string $mattes = null,
        public ?string $tracks = null,
        public ?string $given = null,
        public ?string $points = null,
        public ?string $assets = null,
        public ?array $span = null,
        public int $workers = 2,
    ) {}
}
