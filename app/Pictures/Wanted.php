<?php

declare(strict_types=1);

namespace App\Pictures;

/** A picture somebody wants to see. */
final readonly class Wanted
{
    /**
     * @param string|null                            $area     id of the area a view is about
     * @param array{float, float, float, float}|null $window   left, top, right, bottom in picture heights; null for all
     * @param int                                    $gain     of a difference
     * @param int|null                               $revision an earlier one; null for the present
     * @param mixed                                  $unsaved  a recipe document that is not saved yet
     * @param int|null                               $full     pixels down that are sent instead, where they are kept already
     * @param int|null                               $standing the revision whose picture is there already: only where it differs is wanted
     */
    public function __construct(
        public int $frame,
        public View $view,
        public ?string $area,
        public int $height,
        public ?array $window = null,
        public int $gain = 1,
        public ?int $revision = null,
        public mixed $unsaved = null,
        public ?int $standing = null,
        public ?int $full = null,
    ) {}

    /**
     * @param int|null $height another than is wanted
     *
     * @return list<mixed> what tells one picture of a frame from another
     */
    public function key(?int $height = null): array
    {
        return [$this->view->value, $this->area, $height ?? $this->height, $this->window, $this->gain];
    }
}
