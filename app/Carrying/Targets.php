<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Revision;
use App\Models\Shot;
use App\Models\ShotState;
use Cossel\Core\Colour\CieLab;
use Cossel\Core\Colour\Oklab;
use Cossel\Core\Picture\LabPlanes;

/** The other shots of a job as what a treatment can be carried to: those that know the person first, then those that probably show them, then by likeness of light. */
final class Targets
{
    public function __construct(private readonly Frames $frames, private readonly LikelyShots $likely) {}

    /** @return list<array{shot: Shot, knows: bool, likely: bool, apart: float}> apart: CIEDE2000 of the middle frames' means */
    public function of(Shot $source, ?string $person): array
    {
        $light = $this->light($source);
        $likely = $person === null ? [] : rescue(fn(): array => $this->likely->of($source->job, $person), []);
        $targets = [];
        foreach (Shot::where('job_id', $source->job_id)->whereKeyNot($source->id)->where('state', ShotState::Ready)->with(['footage', 'presentRevision'])->orderBy('position')->orderBy('id')->get() as $shot) {
            // One that cannot be read is no target, and keeps none from being shown.
            $apart = rescue(fn(): float => CieLab::difference($light, $this->light($shot)));
            $apart === null || $targets[] = ['shot' => $shot, 'knows' => $person !== null && rescue(static fn(): bool => self::knows($shot->presentRevision, $person), false), 'likely' => isset($likely[$shot->id]), 'apart' => $apart];
        }
        usort($targets, static fn(array $a, array $b): int => [!$a['knows'], !$a['likely'], $a['apart']] <=> [!$b['knows'], !$b['likely'], $b['apart']]);

        return $targets;
    }

    private static function knows(Revision $revision, string $person): bool
    {
        return in_array($person, array_column($revision->document()['areas'] ?? [], 'person'), true);
    }

    /** @return array{float, float, float} mean CIELAB of its middle frame, kept once it was looked at */
    private function light(Shot $shot): array
    {
        if ($shot->light === null) {
            $number = intdiv($shot->from + $shot->to, 2);
            $frame = $this->frames->of($shot->readyFootage()->file(), [$number])[$number];
            $rect = $frame->format->rect();
            $lab = LabPlanes::of($frame->window($rect), $rect, $frame->format->transfer);
            $mean = static fn(array $v): float => array_sum($v) / count($v);
            Shot::whereKey($shot->id)->update(['light' => json_encode([$mean($lab->l), $mean($lab->a), $mean($lab->b)])]);
            $shot->light = [$mean($lab->l), $mean($lab->a), $mean($lab->b)];
        }

        return CieLab::fromLinear(...Oklab::toLinear(...$shot->light));
    }
}
