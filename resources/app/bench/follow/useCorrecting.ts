import type { Ref } from 'vue';
import type { Pair } from '../../api/types';
import { useBench } from '../bench';
import { angleOf, apply, degrees, minus, rounded, roundedPair, type Matrix } from '../outline/geometry';
import { drag, onStage } from '../picture/drag';
import type { Correction } from './useFollowing';

const NONE: Correction = { move: [0, 0], turn: 0, scale: 1 };

/** The handles of a shape while the motion is being corrected: they move, turn and scale the whole on this frame. */
export function useCorrecting(pivot: Ref<Pair>, matrix: Ref<Matrix>) {
  const { stage, following } = useBench();
  /** What the arrow keys have come to since their last pause. */
  let pressed: Correction = { ...NONE };

  function correct(e: PointerEvent, move: (at: Pair, from: Pair, pivot: Pair) => Partial<Correction>): void {
    if (e.button !== 0) return;
    const from = onStage(e);
    const centre = stage.onScreen(apply(matrix.value, pivot.value));
    drag(e, (at) => following.correct({ ...NONE, ...move(at, from, centre) }), (moved) => moved && following.corrected());
  }
  function press(change: (c: Correction) => void): void {
    change(pressed);
    following.correct({ ...pressed });
  }

  return {
    move: (e: PointerEvent): void => correct(e, (at, from) => ({ move: roundedPair([(at[0] - from[0]) / stage.unit.value, (at[1] - from[1]) / stage.unit.value]) })),
    turn: (e: PointerEvent): void => correct(e, (at, from, centre) => ({ turn: rounded(degrees(angleOf(centre, at) - angleOf(centre, from))) })),
    size: (e: PointerEvent, _axis: 0 | 1): void => correct(e, (at, from, centre) => ({ scale: rounded(Math.max(0.05, Math.hypot(...minus(at, centre)) / Math.max(1, Math.hypot(...minus(from, centre))))) })),
    moveBy: (x: number, y: number): void => press((c) => (c.move = roundedPair([c.move[0] + x / stage.rows, c.move[1] + y / stage.rows]))),
    turnBy: (steps: number): void => press((c) => (c.turn = rounded(c.turn + steps * 0.5))),
    sizeBy: (_axis: 0 | 1, steps: number): void => press((c) => (c.scale = rounded(Math.max(0.05, c.scale * 1.005 ** steps)))),
    settle: (): void => {
      pressed = { ...NONE };
      following.corrected();
    },
  };
}
