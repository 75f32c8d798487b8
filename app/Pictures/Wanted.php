<?php

declare(strict_types=1);

namespace App\Pictures;

/** A picture somebody wants to see. */
final readonly class Wanted
{
    /**
     * @param string|null                            $area     id of the area a view is about
     * @param array{float, float, float, float}|null $window   left, top, right, bottom in picture heights; null for all
     * @param bool                                   $reach    only as far as the area's inside goes
     * @param int                                    $gain     of a difference
     * @param int|null                               $revision an earlier one; null for the present
     * @param mixed                                  $unsaved  a recipe document that is not saved yet
     */
    public function __construct(
        public int $frame,
        public View $view,
        public ?string $area,
        public int $height,
        public ?array $window = null,
        public bool $reach = false,
        public int $gain = 1,
        public ?int $revision = null,
        public mixed $unsaved = null,
    ) {}

    /** @return list<mixed> what tells one picture of a recipe from another */
    public function key(): array
    {
        return [$this->frame, $this->view->value, $this->area, $this->height, $this->window, $this->reach, $this->gain];
    }
}
