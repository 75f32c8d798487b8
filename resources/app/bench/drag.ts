import type { Pair } from '../api/types';

/** Follows a pointer that went down on a handle until it is let go; `move` gets where it is on the stage, in screen pixels. */
export function drag(e: PointerEvent, move: (at: Pair, event: PointerEvent) => void, done: (moved: boolean) => void): void {
  e.stopPropagation();
  e.preventDefault();
  const handle = e.currentTarget as Element;
  const stage = (handle.closest('[data-stage]') ?? handle).getBoundingClientRect();
  handle.setPointerCapture(e.pointerId);
  let moved = false;
  const onMove = (m: Event): void => {
    const p = m as PointerEvent;
    if (!moved && Math.hypot(p.clientX - e.clientX, p.clientY - e.clientY) < 2) return;
    moved = true;
    move([p.clientX - stage.left, p.clientY - stage.top], p);
  };
  const onUp = (): void => {
    handle.removeEventListener('pointermove', onMove);
    handle.removeEventListener('pointerup', onUp);
    handle.removeEventListener('pointercancel', onUp);
    done(moved);
  };
  handle.addEventListener('pointermove', onMove);
  handle.addEventListener('pointerup', onUp);
  handle.addEventListener('pointercancel', onUp);
}

/** Follows a pointer that went down on something until it is let go, wherever it is. */
export function hold(e: PointerEvent, move: (event: PointerEvent) => void, done: () => void): void {
  const held = e.currentTarget as HTMLElement | SVGElement;
  held.setPointerCapture(e.pointerId);
  const onMove = (m: Event): void => move(m as PointerEvent);
  const onUp = (): void => {
    held.removeEventListener('pointermove', onMove);
    held.removeEventListener('pointerup', onUp);
    held.removeEventListener('pointercancel', onUp);
    done();
  };
  held.addEventListener('pointermove', onMove);
  held.addEventListener('pointerup', onUp);
  held.addEventListener('pointercancel', onUp);
}

/** Where a pointer is on the stage, in screen pixels. */
export function onStage(e: PointerEvent | MouseEvent): Pair {
  const stage = ((e.currentTarget as Element).closest('[data-stage]') as Element).getBoundingClientRect();
  return [e.clientX - stage.left, e.clientY - stage.top];
}
