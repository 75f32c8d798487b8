<?php

declare(strict_types=1);

namespace App\Work;

use App\Carrying\CannotCarry;
use App\Carrying\Proposing;
use App\Models\Carry;
use App\Models\CarryState;

/** Makes the proposal of a carry. */
final class MakeProposal implements Piece
{
    use Background;

    public function __construct(private readonly int $carry)
    {
        $this->onQueue(Queues::BENCH);
    }

    public function about(): string
    {
        return "carry {$this->carry}";
    }

    public function what(): string
    {
        return 'Carrying a treatment to a shot';
    }

    public function again(): void
    {
        if (Carry::whereKey($this->carry)->where('state', CarryState::Failed)->update(['state' => CarryState::Waiting, 'message' => null]) === 1) {
            self::dispatch($this->carry);
        }
    }

    public function handle(Proposing $proposing): void
    {
        $carry = Carry::find($this->carry);
        if ($carry === null || !$carry->state->isOpen()) {
            return;
        }
        $carry->update(['state' => CarryState::Working]);
        try {
            $made = $proposing->of($carry, static fn(string $doing) => Patience::note(static fn(): bool => $carry->update(['message' => $doing])));
            $ended = ['state' => CarryState::Proposed, 'message' => null, ...$made];
        } catch (CannotCarry $reason) {
            $ended = ['state' => CarryState::Failed, 'message' => $reason->getMessage()];
        }
        // It may have been left, or its shot removed, meanwhile.
        $row = Carry::whereKey($this->carry)->where('state', CarryState::Working)->first();
        $row?->update($ended);
    }

    public function failed(?\Throwable $reason): void
    {
        Carry::whereKey($this->carry)->whereIn('state', CarryState::open())->update(['state' => CarryState::Failed, 'message' => 'Carrying broke off. ' . Said::of($reason)]);
    }
}
