<?php

declare(strict_types=1);

namespace App\Deliveries;

/** What is wished of a delivery besides its format and frames. */
final readonly class Wishes
{
    public const HEIGHTS = [360, 540, 720, 1080, 2160];
    public const MATTES = ['png', 'tiff', 'exr'];
    public const BESIDE = ['recipe', 'tracks', 'outlines', 'cdl', 'cube33', 'cube65', 'report'];

    /**
     * @param int|null          $height rows of the pictures; null for the footage's own
     * @param string|null       $mattes what the areas' mattes are written as; null for none
     * @param list<string>|null $areas  ids of the areas whose mattes are written; null for all
     * @param list<string>      $beside what else is written
     * @param bool              $burn   whether name, frame and timecode are burnt into the picture
     */
    public function __construct(public ?int $height = null, public ?string $mattes = null, public ?array $areas = null, public array $beside = [], public bool $burn = false) {}

    /** @param array<string, mixed> $kept as {@see document} gives it, or as a request has it */
    public static function of(array $kept): self
    {
        return new self($kept['height'] ?? null, $kept['mattes'] ?? null, $kept['areas'] ?? null, array_values($kept['beside'] ?? []), (bool) ($kept['burn'] ?? false));
    }

    /** @return array<string, mixed> */
    public function document(): array
    {
        return get_object_vars($this);
    }

    /** Whether anything is written beside the film. */
    public function asksBeside(): bool
    {
        return $this->mattes !== null || $this->beside !== [];
    }

    /** Whether the pictures are other than as they were rendered. */
    public function changesPictures(): bool
    {
        return $this->height !== null || $this->burn;
    }

    /** @return array<string, mixed> rules for a request */
    public static function rules(): array
    {
        return [
            'height' => ['nullable', 'integer', 'in:' . implode(',', self::HEIGHTS)],
            'mattes' => ['nullable', 'string', 'in:' . implode(',', self::MATTES)],
            'areas' => ['nullable', 'array', 'max:1000'],
            'areas.*' => ['string', 'max:64'],
            'beside' => ['array', 'max:10'],
            'beside.*' => ['string', 'in:' . implode(',', self::BESIDE)],
            'burn' => ['boolean'],
        ];
    }
}
