import { onScopeDispose } from 'vue';

/** After this pause, or when the focus goes, a run of presses is over. */
const PAUSE = 600;
const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/**
 * Arrow keys on something that can be dragged: each press moves it, and twenty of them are one change. `done` is told once
 * they are over.
 */
export function useArrows(done: () => void) {
  let timer: ReturnType<typeof setTimeout> | undefined;

  function settle(): void {
    if (timer === undefined) return;
    clearTimeout(timer);
    timer = undefined;
    done();
  }
  /** Moved by other keys or the wheel: over after the same pause. */
  function touched(): void {
    clearTimeout(timer);
    timer = setTimeout(settle, PAUSE);
  }
  onScopeDispose(settle);

  return {
    settle,
    touched,
    /** True where the key was an arrow and has been used; x to the right, y down, in steps. */
    press(e: KeyboardEvent, move: (x: number, y: number) => void): boolean {
      const way = WAYS[e.key];
      if (!way || e.altKey || e.ctrlKey || e.metaKey) return false;
      e.preventDefault();
      e.stopPropagation();
      move(...way);
      touched();
      return true;
    },
  };
}
