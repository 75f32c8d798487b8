import { useEventListener } from '@vueuse/core';
import type { Pair } from '../../api/types';

/** Pixels a pointer has to go before it counts as moved. */
const SLACK = 2;

/** Follows a pointer that went down on something until it is let go, wherever it is. */
export function hold(e: PointerEvent, move: (event: PointerEvent) => void, done: () => void): void {
  const held = e.currentTarget as HTMLElement | SVGElement;
  held.setPointerCapture(e.pointerId);
  const stops = [useEventListener(held, 'pointermove', (m: Event) => move(m as PointerEvent)), useEventListener(held, ['pointerup', 'pointercancel'], () => {
    for (const stop of stops) stop();
    done();
  })];
}

/** The same for a handle on the picture; `move` gets where it is on the stage, in screen pixels. */
export function drag(e: PointerEvent, move: (at: Pair, event: PointerEvent) => void, done: (moved: boolean) => void): void {
  e.stopPropagation();
  e.preventDefault();
  const stage = stageOf(e).getBoundingClientRect();
  let moved = false;
  hold(e, (m) => {
    if (!moved && Math.hypot(m.clientX - e.clientX, m.clientY - e.clientY) < SLACK) return;
    moved = true;
    move([m.clientX - stage.left, m.clientY - stage.top], m);
  }, () => done(moved));
}

/** Where a pointer is on the stage, in screen pixels. */
export function onStage(e: PointerEvent | MouseEvent): Pair {
  const stage = stageOf(e).getBoundingClientRect();
  return [e.clientX - stage.left, e.clientY - stage.top];
}

function stageOf(e: Event): Element {
  const own = e.currentTarget as Element;
  return own.closest('[data-stage]') ?? own;
}
